export * from './hear'
