import { PortError, type OpenPorts, type OuterPort, type PortDriver, type Stop } from './port'

/** A source of messages within the application, such as a capture that is played. */
export interface InAppSource {
  /** Whole messages or parts of them, at a time of `performance.now()`. */
  push: (bytes: Uint8Array, atMs: number) => void
  remove: Stop
}

/** Ports within the application: anything in it can offer one. */
export interface InAppPorts extends PortDriver {
  offer: (port: { id: string; name: string }) => InAppSource
}

/** Ports that exist in this page alone, and behave as those of the computer do. */
export function inAppPorts(): InAppPorts {
  const ports = new Map<string, OuterPort>()
  const listeners = new Map<string, Set<(bytes: Uint8Array, atMs: number) => void>>()
  const watchers = new Set<() => void>()
  const changed = (): void => watchers.forEach((watcher) => watcher())
  const opened: OpenPorts = {
    hasSysex: true,
    ports: () => [...ports.values()],
    onChange: (listener) => {
      watchers.add(listener)
      return () => watchers.delete(listener)
    },
    listen: async (id, listener) => {
      if (!ports.has(id)) throw new PortError('unplugged')
      const all = listeners.get(id) ?? new Set()
      listeners.set(id, all.add(listener))
      return () => all.delete(listener)
    },
    send: () => {
      throw new PortError('unplugged')
    },
    close: () => listeners.clear(),
  }
  return {
    open: async () => opened,
    offer: ({ id, name }) => {
      ports.set(id, { id, name, maker: '', direction: 'in', isThere: true })
      changed()
      return {
        push: (bytes, atMs) => listeners.get(id)?.forEach((listener) => listener(bytes, atMs)),
        remove: () => {
          ports.delete(id)
          listeners.delete(id)
          changed()
        },
      }
    },
  }
}
