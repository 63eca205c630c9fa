import { expose } from 'comlink'
import runtime from 'highs/runtime?url'
import { loadPrograms } from '../../shared/programs'
import { createAllocation } from './allocation'

expose(createAllocation(() => loadPrograms({ locateFile: () => runtime })))
