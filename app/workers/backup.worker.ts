import { expose } from 'comlink'
import { createBackupKeeper } from './backup'

expose(createBackupKeeper())
