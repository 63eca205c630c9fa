import { expose } from 'comlink'
import { createReader } from './reader'

expose(createReader())
