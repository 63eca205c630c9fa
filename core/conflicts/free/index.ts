export * from './free-address'
export * from './obstacles'
export * from './preferences'
export * from './rank'
