import base from './vitest.config'

/** The routes of the server, which need no browser. */
export default {
  ...base,
  test: { ...base.test, include: ['e2e/**/*.served.ts'], globalSetup: [], maxWorkers: 1 },
}
