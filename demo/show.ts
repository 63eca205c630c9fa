import { MOVEMENTS, movementIds } from './destinations/loomwright'
import { slug, type DemoInput } from './kit'

/** The movements of the show, with what shows in each. */
export const passages = MOVEMENTS.map((name, index) => {
  const layer = slug(name)
  return {
    id: layer,
    name,
    showing: [
      { controller: 'syzra', template: 'nine-rings', layers: [{ stack: 'knobs', layer }] },
      { controller: 'umbrek', template: 'nine-rings', layers: [{ stack: 'rows', layer }] },
      {
        controller: 'pelluna',
        template: 'nine-rings',
        layers: index === 3 ? [{ stack: 'pads', layer: 'scales' }] : [],
      },
    ],
    scopes: [{ destination: 'loomwright', scope: layer }],
  }
})

/** Who chooses which layers. */
export function choices(): DemoInput['choices'] {
  const pads = (layer: string) => [
    {
      kind: 'layers' as const,
      controller: 'pelluna',
      template: 'nine-rings',
      stack: 'pads',
      layers: [layer],
    },
  ]
  return [
    {
      id: 'page-1',
      by: { kind: 'gesture', gesture: 'pelluna/slim-1.press' },
      how: 'this-one',
      targets: pads('drums'),
    },
    {
      id: 'page-2',
      by: { kind: 'gesture', gesture: 'pelluna/slim-2.press' },
      how: 'this-one',
      targets: pads('scales'),
    },
    {
      id: 'shift-buttons',
      by: { kind: 'gesture', gesture: 'syzra/side-2.press' },
      how: 'next',
      targets: [
        {
          kind: 'layers',
          controller: 'syzra',
          template: 'nine-rings',
          stack: 'buttons',
          layers: ['mutes', 'scenes'],
        },
      ],
    },
    {
      id: 'next-movement',
      by: { kind: 'gesture', gesture: 'umbrek/foot-1.press' },
      how: 'next',
      targets: [
        { kind: 'layers', controller: 'syzra', template: 'nine-rings', stack: 'knobs', layers: movementIds },
        { kind: 'layers', controller: 'umbrek', template: 'nine-rings', stack: 'rows', layers: movementIds },
      ],
    },
  ]
}
