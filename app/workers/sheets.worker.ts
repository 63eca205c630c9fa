import { expose } from 'comlink'
import { browserTools } from './sheet-tools'
import { createSheetMaker } from './sheets'

expose(createSheetMaker(browserTools))
