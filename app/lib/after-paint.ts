/** A page that is not shown paints nothing: then it goes on after this time. */
const HIDDEN_MS = 60

/** Once what has just changed is on the screen: the place for work that the player does not wait for. */
export const afterPaint = (): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, HIDDEN_MS)
    requestAnimationFrame(() => {
      setTimeout(() => {
        clearTimeout(timer)
        resolve()
      })
    })
  })
