import { getQuery, getRouterParam } from 'h3'
import { defineJob } from '../../lib/pool'

/** What is asked in the address; of what is asked twice the first counts. */
export default defineJob('sheet', (event) => {
  const query = Object.entries(getQuery(event)).map(([name, value]) => [
    name,
    String(Array.isArray(value) ? value[0] : value),
  ])
  return { ...Object.fromEntries(query), kind: getRouterParam(event, 'kind') ?? '' }
})
