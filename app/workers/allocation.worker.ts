import { expose } from 'comlink'
import { createAllocation } from './allocation'

expose(createAllocation())
