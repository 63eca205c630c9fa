export * from './labels'
export * from './paths'
export * from './shapes'
