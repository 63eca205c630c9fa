import { expose } from 'comlink'
import runtime from 'highs/runtime?url'
import { programsWhenNeeded } from '../../shared/programs'
import { createAllocation } from './allocation'

expose(createAllocation(programsWhenNeeded({ locateFile: () => runtime })))
