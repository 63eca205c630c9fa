export * from './agreement'
export * from './arrival'
export * from './impact'
export * from './purpose'
