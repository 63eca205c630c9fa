import { seedProperties } from './cases'

seedProperties()
