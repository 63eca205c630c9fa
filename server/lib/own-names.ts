/** The names by which a computer calls itself. */
const LOOPBACK = /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/i

/** Further names under which the server may be asked, from the environment: `DEFT_HOSTS=studio.local,10.0.0.4`. */
const configured = (): ReadonlySet<string> =>
  new Set(
    (process.env.DEFT_HOSTS ?? '')
      .split(',')
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
  )

const withoutPort = (host: string): string => host.replace(/:\d+$/, '').toLowerCase()

/** Is a request under this name meant for this server? Another name could be one that a foreign page points at it. */
export const isOwnHost = (host: string): boolean => {
  const name = withoutPort(host)
  return LOOPBACK.test(name) || configured().has(name)
}

/** Does a request come from a page that this server sent? */
export function isOwnOrigin(origin: string, host: string): boolean {
  try {
    const { protocol, host: from } = new URL(origin)
    return (protocol === 'http:' || protocol === 'https:') && from.toLowerCase() === host.toLowerCase()
  } catch {
    return false
  }
}
