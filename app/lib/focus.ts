const MOST_FRAMES = 60

/** Focus the first element that a CSS selector finds, as soon as it is there; a panel may be on its way. */
export function focusWhenThere(css: string, frames = MOST_FRAMES): void {
  requestAnimationFrame(() => {
    const element = document.querySelector<HTMLElement>(css)
    if (element) element.focus()
    else if (frames > 0) focusWhenThere(css, frames - 1)
  })
}
