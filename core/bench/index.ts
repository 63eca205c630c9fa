export * from './bench'
export * from './controller'
export * from './destination'
export type * from './hands'
