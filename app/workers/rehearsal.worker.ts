import { expose } from 'comlink'
import { createRehearser } from './rehearsal'

expose(createRehearser())
