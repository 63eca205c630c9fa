export * from './document'
export * from './read'
export * from './write'
