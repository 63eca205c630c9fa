/**
 * @typedef {{ name: string, cores?: number, after?: string[], act: () => Promise<T> }} Job
 * @template T
 */

/**
 * Do jobs side by side on so many cores: each begins, in the order of the list, as soon as the jobs that it comes after
 * have ended and it has the cores that it needs.
 */
export function doJobs(jobs, cores) {
  const waiting = [...jobs]
  const ended = new Set()
  let free = cores
  return new Promise((resolve, reject) => {
    const next = () => {
      if (waiting.length === 0 && free === cores) return resolve()
      for (const job of [...waiting]) {
        const needed = Math.min(job.cores ?? 1, cores)
        if (needed > free || !(job.after ?? []).every((name) => ended.has(name))) continue
        waiting.splice(waiting.indexOf(job), 1)
        free -= needed
        job.act().then(() => {
          free += needed
          ended.add(job.name)
          next()
        }, reject)
      }
    }
    next()
  })
}
