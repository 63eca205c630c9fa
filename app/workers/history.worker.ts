import { expose } from 'comlink'
import { createHistorian } from './history'

expose(createHistorian())
