import { barsOf, traceStroke } from '~/lib/bench/strokes'
import type { Lane } from '~/lib/bench/tape'

interface Strokes {
  /** In px. */
  size: () => { width: number; height: number }
  lanes: () => readonly Lane[]
  /** Px of a time in ms. */
  x: (at: number) => number
  /** Px of a level, 0–1, in a lane. */
  y: (level: number, lane: number) => number
}

const [STROKE_PX, BAR_PX] = [2, 4]

/** Draw the strokes of lanes on a canvas, whenever they change: it takes thousands of points in a picture. */
export function useStrokes(canvas: Readonly<Ref<HTMLCanvasElement | null>>, of: Strokes): void {
  const preferences = usePreferencesStore()
  /** The colour of each controller, as the theme has it. */
  const colours = computed(() => {
    void preferences.theme
    const style = getComputedStyle(document.documentElement)
    const known = new Map<number, string>()
    return (hue: number): string => {
      const before = known.get(hue) ?? style.getPropertyValue(`--hue-${hue}`)
      known.set(hue, before)
      return before
    }
  })
  function draw(): void {
    const element = canvas.value
    const pen = element?.getContext('2d')
    if (!element || !pen) return
    const { width, height } = of.size()
    const scale = window.devicePixelRatio
    const [across, down] = [Math.round(width * scale), Math.round(height * scale)]
    if (element.width !== across || element.height !== down)
      Object.assign(element, { width: across, height: down })
    pen.setTransform(scale, 0, 0, scale, 0, 0)
    pen.clearRect(0, 0, width, height)
    pen.lineWidth = STROKE_PX
    pen.lineJoin = 'round'
    pen.lineCap = 'round'
    of.lanes().forEach(({ points, hue }, index) => {
      pen.strokeStyle = pen.fillStyle = colours.value(hue)
      pen.beginPath()
      traceStroke(points, of.x, (level) => of.y(level, index), pen)
      pen.stroke()
      pen.globalAlpha = 0.5
      for (const { from, to } of barsOf(points))
        pen.fillRect(of.x(from), of.y(0, index), Math.max(1, of.x(to) - of.x(from)), BAR_PX)
      pen.globalAlpha = 1
    })
  }
  watch([of.lanes, of.size, colours, canvas], draw, { flush: 'post' })
}
