/**
 * Dragging and resizing of the selected controls while drawing, by Interact.js. The package is fetched
 * when drawing starts.
 */
export function useSurfaceDrag(scale: () => number): void {
  const desk = useDeskStore()
  const draw = useDrawStore()
  const { place } = useDrawing()
  let stop: (() => void) | null = null

  interface Moved {
    dx: number
    dy: number
    target: Element
  }

  function begin({ target }: Moved): void {
    const id = target.getAttribute('data-control')
    if (id !== null && !desk.selectedIds.includes(id)) desk.selectMany([id])
    draw.drag = { dx: 0, dy: 0 }
  }
  function finish(label: string): void {
    const placing = draw.placing
    draw.drag = null
    draw.resize = null
    place(label, placing)
  }

  async function start(): Promise<void> {
    const { default: interact } = await import('interactjs')
    if (!draw.isDrawing) return
    const controls = interact('[data-testid=surface] [data-control]').draggable({
      listeners: {
        start: begin,
        move: ({ dx, dy }: Moved) => {
          draw.drag = { dx: (draw.drag?.dx ?? 0) + dx / scale(), dy: (draw.drag?.dy ?? 0) + dy / scale() }
        },
        end: () => finish('Move'),
      },
    })
    const handle = interact('[data-testid=resize-handle]').draggable({
      listeners: {
        move: ({ dx, dy }: Moved) => {
          draw.resize = {
            dw: (draw.resize?.dw ?? 0) + dx / scale(),
            dh: (draw.resize?.dh ?? 0) + dy / scale(),
          }
        },
        end: () => finish('Resize'),
      },
    })
    stop = () => {
      controls.unset()
      handle.unset()
    }
  }

  watch(
    () => draw.isDrawing,
    (isDrawing) => {
      stop?.()
      stop = null
      if (isDrawing) void start()
    },
    { immediate: true },
  )
  onBeforeUnmount(() => stop?.())
}
