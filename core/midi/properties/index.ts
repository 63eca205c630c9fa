export * from './document'
export { readProperties, type PropertiesRead } from './read'
export { writeProperties } from './write'
