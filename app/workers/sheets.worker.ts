import { expose } from 'comlink'
import { fetchFont } from './sheet-fonts'
import { createSheetMaker } from './sheets'

expose(createSheetMaker(fetchFont))
