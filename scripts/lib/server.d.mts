import type { ChildProcess } from 'node:child_process'

export function isFree(port: number): Promise<boolean>
export function anyFreePort(): Promise<number>
export function serve(
  port: number,
  options?: { quiet?: boolean },
): Promise<{ address: string; child: ChildProcess; stop: () => void }>
