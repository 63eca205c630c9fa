import type { Assignment, Controller, GestureKey, RigEdit, Template } from '../../rig'

type Table = Readonly<Record<GestureKey, Assignment>>

/** The edits that make a template of a controller the same as another version of it: those assignments that differ. */
export function templateEdits({ id: controller }: Controller, before: Template, after: Template): RigEdit[] {
  const edits: RigEdit[] = []
  const compare = (layer: string | null, was: Table, will: Table): void => {
    for (const gesture of Object.keys(will)) {
      const assignment = will[gesture]
      if (!assignment || JSON.stringify(assignment) === JSON.stringify(was[gesture])) continue
      edits.push({ type: 'assignment', at: { controller, template: before.id, layer, gesture }, assignment })
    }
  }
  compare(null, before.base, after.base)
  const layers = (template: Template) => template.stacks.flatMap((stack) => stack.layers)
  const old = new Map(layers(before).map((layer) => [layer.id, layer.assignments]))
  for (const { id, assignments } of layers(after)) compare(id, old.get(id) ?? {}, assignments)
  return edits
}
