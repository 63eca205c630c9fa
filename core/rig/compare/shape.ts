/**
 * How far a rig is looked into when it is compared. What has no shape is compared and brought back as one thing: half of a mapping or
 * of a message would make no sense by itself.
 */
export type Shape =
  | { kind: 'whole' }
  /** A thing with named fields; fields that are not listed are whole. */
  | { kind: 'fields'; of: Readonly<Record<string, Shape>> }
  /** A list in order, whose items have an id. */
  | { kind: 'items'; of: Shape }
  /** A table without order, such as the assignments by gesture. */
  | { kind: 'table' }

export const WHOLE: Shape = { kind: 'whole' }
const fields = (of: Readonly<Record<string, Shape>>): Shape => ({ kind: 'fields', of })
const items = (of: Shape = WHOLE): Shape => ({ kind: 'items', of })
const TABLE: Shape = { kind: 'table' }

/** A new list of the format that is to be compared item by item is one line here. */
export const RIG_SHAPE: Shape = fields({
  models: items(fields({ surface: fields({ blocks: items(), controls: items() }) })),
  controllers: items(
    fields({
      ports: items(),
      templates: items(
        fields({
          base: TABLE,
          stacks: items(fields({ layers: items(fields({ assignments: TABLE })) })),
        }),
      ),
    }),
  ),
  destinations: items(fields({ ports: items(), claims: items(), scopes: items(), parameters: items() })),
  boxes: items(),
  computers: items(),
  cables: items(),
  mappings: items(),
  choices: items(),
  accords: items(),
  lightRoles: items(),
  passages: items(),
  houseRules: items(),
  recipes: items(),
})

/** The shape of what lies at a place: names of fields, ids of items and keys of tables, from the outside in. */
export const shapeWithin = (shape: Shape, step: string): Shape =>
  shape.kind === 'fields' ? (shape.of[step] ?? WHOLE) : shape.kind === 'items' ? shape.of : WHOLE
