import type { Control, GestureKey, Template } from '#core/rig'

const gesturesOf = (controls: readonly Control[]): GestureKey[] =>
  controls.flatMap((control) => control.gestures.map((gesture) => `${control.id}.${gesture}`))

/** The gestures of controls that no replacing stack of a template changes yet. */
export function gesturesFree(template: Template, controls: readonly Control[]): GestureKey[] {
  const covered = new Set(
    template.stacks.filter(({ mode }) => mode === 'replace').flatMap(({ gestures }) => gestures),
  )
  return gesturesOf(controls).filter((gesture) => !covered.has(gesture))
}

/** The gestures of controls that are among those given. */
export function gesturesAmong(gestures: readonly GestureKey[], controls: readonly Control[]): GestureKey[] {
  const own = new Set(gesturesOf(controls))
  return gestures.filter((gesture) => own.has(gesture))
}
