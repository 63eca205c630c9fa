import { setResponseHeader } from 'h3'
import { ApiError, defineApi } from '../lib/api'

/** The one method that each known route answers to. */
const METHODS: Readonly<Record<string, 'GET' | 'POST'>> = {
  '/api/health': 'GET',
  '/api/schema': 'GET',
  '/api/demo/as-found': 'GET',
  '/api/demo/as-performed': 'GET',
  '/api/check': 'POST',
  '/api/allocate': 'POST',
}

export default defineApi((event) => {
  const path = event.path.split('?')[0] ?? event.path
  const method = METHODS[path]
  if (method === undefined)
    throw new ApiError(404, `There is no route ${path}; docs/api.md lists them.`, path)
  setResponseHeader(event, 'allow', method)
  throw new ApiError(405, `${path} answers ${method} only.`, path)
})
