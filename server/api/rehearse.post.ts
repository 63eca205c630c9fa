import { defineJob } from '../lib/pool'

export default defineJob('rehearse')
