export * from './bulk'
export * from './copy-layer'
export * from './numbering'
export * from './places'
