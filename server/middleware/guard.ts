import { defineEventHandler, getRequestHeader, setResponseHeader } from 'h3'
import { answerError, ApiError } from '../lib/api'
import { isOwnHost, isOwnOrigin } from '../lib/own-names'

/** A refusal for requests that come under another name, or from another page. */
export default defineEventHandler((event) => {
  const refuse = (message: string) => {
    setResponseHeader(event, 'content-type', 'application/json')
    return JSON.stringify(answerError(event, new ApiError(403, message)))
  }
  const host = getRequestHeader(event, 'host') ?? ''
  if (!isOwnHost(host))
    return refuse(
      `This server does not answer under the name “${host.slice(0, 100)}”. If it should, name it in DEFT_HOSTS.`,
    )
  const origin = getRequestHeader(event, 'origin')
  if (origin !== undefined && !isOwnOrigin(origin, host))
    return refuse(`Another page may not use this server: “${origin.slice(0, 100)}”.`)
})
