export * from './csv'
export * from './owners'
export * from './read'
