import { expose } from 'comlink'
import { createChooser } from './lights'

expose(createChooser())
