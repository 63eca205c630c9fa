import base from './vitest.config'

export default { ...base, test: { ...base.test, include: ['e2e/**/*.shots.ts'] } }
