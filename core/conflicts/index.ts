export * from './check'
export * from './context'
export * from './finding'
export { RULES } from './rules'
