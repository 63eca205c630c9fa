import {
  canChoose,
  controlName,
  gestureName,
  goesThrough,
  gestureRef,
  modelOf,
  type Choice,
  type GestureRef,
  type Rig,
} from '#core/rig'

/** Something that can be picked from a grouped list. */
export interface Option<T> {
  key: string
  label: string
  value: T
}
export interface OptionGroup<T> {
  name: string
  options: ReadonlyArray<Option<T>>
}

type Target = Choice['targets'][number]

/** Every pad, button and switch that can choose, by controller. */
export const chooserOptions = (rig: Rig): Array<OptionGroup<GestureRef>> =>
  rig.controllers
    .map((controller) => ({
      name: controller.name,
      options: modelOf(rig, controller).surface.controls.flatMap((control) => {
        const gestures = control.silent ? [] : control.gestures.filter(canChoose)
        return gestures.map((gesture) => {
          const ref = gestureRef(controller.id, `${control.id}.${gesture}`)
          const label = gestures.length > 1 ? gestureName(control, gesture) : controlName(control)
          return { key: ref, label, value: ref }
        })
      }),
    }))
    .filter(({ options }) => options.length > 0)

/** What can be chosen in a rig: each layer (or each stack as a whole, to go through), and each template. */
export function targetOptions(rig: Rig, how: Choice['how']): Array<OptionGroup<Target>> {
  return rig.controllers.flatMap((controller) => {
    const owner = controller.id
    const ofLayers = controller.templates.flatMap((template) =>
      template.stacks.map((stack) => {
        const target = (layers: string[]): Target => ({
          kind: 'layers',
          controller: owner,
          template: template.id,
          stack: stack.id,
          layers,
        })
        const key = `${owner}/${template.id}/${stack.id}`
        const name =
          controller.templates.length > 1
            ? `${controller.name} · ${template.name} · ${stack.name}`
            : `${controller.name} · ${stack.name}`
        const options = goesThrough(how)
          ? [{ key, label: 'all layers', value: target(stack.layers.map(({ id }) => id)) }]
          : stack.layers.map((layer) => ({
              key: `${key}/${layer.id}`,
              label: layer.name,
              value: target([layer.id]),
            }))
        return { name, options }
      }),
    )
    const ofTemplates = controller.templates.map((template) => ({
      key: `${owner}/${template.id}`,
      label: template.name,
      value: { kind: 'template' as const, controller: owner, template: template.id },
    }))
    return [
      ...ofLayers,
      ...(ofTemplates.length > 1 ? [{ name: `${controller.name} · templates`, options: ofTemplates }] : []),
    ]
  })
}

/** The option with this key, wherever it stands. */
export const optionAt = <T>(groups: ReadonlyArray<OptionGroup<T>>, key: string): T | null =>
  groups.flatMap(({ options }) => options).find((option) => option.key === key)?.value ?? null
