import { copies, grownSurface, moved, type Control, type Id, type Placing, type RigEdit } from '#core/rig'

/** Edits of the surface of the controller on the Desk, each one step with a name. */
export function useDrawing() {
  const desk = useDeskStore()
  const edit = useEdit()

  /** Let the surface grow so that it holds these controls too. */
  function growth(controls: readonly Control[]): RigEdit[] {
    const { model } = desk
    if (!model) return []
    const { width, height } = grownSurface(model.surface, controls)
    const isSame = width === model.surface.width && height === model.surface.height
    return isSame ? [] : [{ type: 'surface-set', model: model.id, width, height }]
  }

  function place(label: string, placing: Placing): void {
    const { model } = desk
    if (!model) return
    const changed = model.surface.controls.flatMap((control) => {
      const to = placing.get(control.id)
      return to && JSON.stringify(to) !== JSON.stringify(control.place) ? [{ ...control, place: to }] : []
    })
    if (changed.length === 0) return
    edit(label, [
      ...growth(changed),
      {
        type: 'controls-set',
        model: model.id,
        controls: changed.map(({ id, place: to }) => ({ id, set: { place: to } })),
      },
    ])
  }

  function add(label: string, controls: Control[], blocks: Parameters<typeof addEdit>[1]): void {
    const made = addEdit(controls, blocks)
    if (made && edit(label, [...growth(controls), made])) desk.selectMany(controls.map(({ id }) => id))
  }
  function addEdit(
    controls: Control[],
    blocks: Extract<RigEdit, { type: 'controls-add' }>['blocks'],
  ): RigEdit | null {
    return desk.model ? { type: 'controls-add', model: desk.model.id, controls, blocks } : null
  }

  function set(
    label: string,
    change: (control: Control, index: number) => Partial<Omit<Control, 'id'>>,
  ): void {
    const { model } = desk
    if (!model) return
    const controls = desk.selected.map((control, index) => ({ id: control.id, set: change(control, index) }))
    edit(label, [{ type: 'controls-set', model: model.id, controls }])
  }

  const nudge = (dx: number, dy: number): void => {
    if (desk.selected.length > 0) place('Nudge', moved(desk.selected, dx, dy))
  }

  function duplicate(times: number, direction: 'right' | 'below'): void {
    if (!desk.model || desk.selected.length === 0) return
    const made = copies(desk.model.surface, desk.selected, times, direction)
    add(times === 1 ? 'Duplicate' : `Duplicate ${times} times`, made.controls, made.blocks)
  }

  async function remove(): Promise<void> {
    const { model } = desk
    const controls: Id[] = [...desk.selectedIds]
    if (!model || controls.length === 0) return
    // Fetched when it is wanted, so that it does not weigh on the first load.
    const takeAway = (await import('./useRemoval')).useRemoval()
    if (
      takeAway(controls.length === 1 ? 'Delete a control' : `Delete ${controls.length} controls`, [
        { type: 'controls-remove', model: model.id, controls },
      ])
    ) {
      desk.select(null)
    }
  }

  return { place, add, set, nudge, duplicate, remove }
}
