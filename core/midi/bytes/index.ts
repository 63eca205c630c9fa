export * from './decode'
export * from './encode'
export * from './read'
export * from './fault-words'
