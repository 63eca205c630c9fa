import { expose } from 'comlink'
import { createLineChecker } from './line-check'

expose(createLineChecker())
