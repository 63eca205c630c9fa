import * as fc from 'fast-check'
import type { Rig } from '../rig'

/** Texts that a format could take for something else, or lose a part of. */
export const AWKWARD_TEXTS: readonly string[] = [
  '<script>alert(1)</script>',
  '=1+1',
  '+44 20',
  '-2',
  '@SUM(A1)',
  '\tTab ahead',
  '=cmd|’ /C calc’!A0',
  'a|b\\c`d`*e*_f_',
  '"quoted", and; more',
  'line\nbreak\r\nagain',
  'שלום עולם',
  'مرحبا بالعالم',
  'turned \u202e round',
  '🎹 keys 🎛️',
  'κύμα волна žluť',
  '日本',
  '鍵盤つまみ、音量',
  '合成器 滤波 說',
  '건반 노브',
  'ﾂﾏﾐｶﾞ ①',
  'คีย์',
  '&amp; &lt; &#39;',
  '# no heading',
  '1. no list',
  '- no list',
  'x'.repeat(120),
  `${'long words '.repeat(10)}end`,
]

const anyName = fc.oneof(
  fc.constantFrom(...AWKWARD_TEXTS),
  fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }),
)
const orSelf = (name: string, old: string): string => (name.trim() === '' ? old : name.trim().slice(0, 120))

/** A rig with its names changed: of the rig, its controllers, controls, layers, destinations, parameters and sounds. */
export const renamed = (rig: Rig, next: (old: string) => string): Rig => {
  const named = <T extends { name: string }>(thing: T): T => ({
    ...thing,
    name: orSelf(next(thing.name), thing.name),
  })
  return {
    ...rig,
    name: orSelf(next(rig.name), rig.name),
    models: rig.models.map((model) => ({
      ...model,
      surface: {
        ...model.surface,
        controls: model.surface.controls.map((control) => ({
          ...control,
          label: orSelf(next(control.label), control.label),
        })),
      },
    })),
    controllers: rig.controllers.map((controller) => ({
      ...named(controller),
      templates: controller.templates.map((template) => ({
        ...named(template),
        stacks: template.stacks.map((stack) => ({ ...named(stack), layers: stack.layers.map(named) })),
      })),
    })),
    destinations: rig.destinations.map((destination) => ({
      ...named(destination),
      parameters: destination.parameters.map(named),
      noteNames: destination.noteNames.map(named),
      programs: destination.programs.map(named),
    })),
    lightRoles: rig.lightRoles.map(named),
    passages: rig.passages.map(named),
  }
}

/** A rig of some kind with awkward names: the same seed, the same names. */
export const withAwkwardNames = (any: fc.Arbitrary<Rig>): fc.Arbitrary<Rig> =>
  fc.tuple(any, fc.array(anyName, { minLength: 5, maxLength: 30 })).map(([rig, names]) => {
    let at = 0
    return renamed(rig, (old) => names[at++ % names.length] ?? old)
  })
