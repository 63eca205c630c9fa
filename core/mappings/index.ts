export * from './agreement'
export * from './impact'
export * from './purpose'
