export * from './agreement'
export * from './purpose'
