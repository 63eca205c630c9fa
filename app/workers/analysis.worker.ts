import { expose } from 'comlink'
import { createAnalysis } from './analysis'

expose(createAnalysis())
