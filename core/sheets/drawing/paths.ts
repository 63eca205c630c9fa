import type { Control } from '../../rig'
import { drawingOf, type Ink, type ShapePart } from './shapes'

/** Parts of a drawing that are inked alike and lie directly over one another, as one path in px. */
export interface InkedPath {
  ink: Ink
  d: string
}

const px = (length: number): string => length.toFixed(2)

function pathOf(part: ShapePart, scale: number): string {
  const at = (length: number): string => px(length * scale)
  switch (part.shape) {
    case 'line':
      return `M${at(part.x1)} ${at(part.y1)}L${at(part.x2)} ${at(part.y2)}`
    case 'circle': {
      const r = at(part.r)
      return `M${at(part.cx - part.r)} ${at(part.cy)}a${r} ${r} 0 1 0 ${at(2 * part.r)} 0a${r} ${r} 0 1 0 ${at(-2 * part.r)} 0z`
    }
    case 'rect': {
      const radius = Math.min(part.radius, part.w / 2, part.h / 2)
      const [r, across, down] = [at(radius), at(part.w - 2 * radius), at(part.h - 2 * radius)]
      return (
        `M${at(part.x + radius)} ${at(part.y)}h${across}a${r} ${r} 0 0 1 ${r} ${r}v${down}` +
        `a${r} ${r} 0 0 1 -${r} ${r}h-${across}a${r} ${r} 0 0 1 -${r} -${r}v-${down}a${r} ${r} 0 0 1 ${r} -${r}z`
      )
    }
  }
}

/** The line drawing of a control at `scale` px a mm, as few paths as keep what lies over what. */
export function inkedPaths(control: Control, scale: number): InkedPath[] {
  const paths: InkedPath[] = []
  for (const part of drawingOf(control)) {
    const last = paths.at(-1)
    const d = pathOf(part, scale)
    if (last?.ink === part.ink) last.d += d
    else paths.push({ ink: part.ink, d })
  }
  return paths
}
