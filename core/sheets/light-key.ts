import { alikes, entriesFor, knowsColours, patternOf, resolve, type Resolved } from '../lights'
import {
  modelOf,
  type Controller,
  type ControlKind,
  type LightRole,
  type PaletteEntry,
  type Rig,
} from '../rig'
import {
  columns,
  numeral,
  row,
  words,
  type Cell,
  type Row,
  type Section,
  type SheetDocument,
} from './document'

const swatch = (text: string, colour: string): Cell => ({ text, mono: true, swatch: colour })
/** A cell with the pattern by which a role is told where colours are not. */
const patterned = (text: string, colour: string, role: number): Cell => ({
  text,
  swatch: colour,
  pattern: patternOf(role),
})

/** The kinds of control of a controller that have lights, those that show the same together. */
function kindsOf(rig: Rig, controller: Controller): ControlKind[] {
  const { abilities, surface } = modelOf(rig, controller)
  const kinds = new Set(surface.controls.map(({ kind }) => kind))
  return [...kinds].filter((kind) => entriesFor(abilities.lights, kind).length > 0)
}

const rowOf = ({ role, state, wanted, entry, off }: Resolved, roles: readonly LightRole[]): Row => {
  const at = roles.indexOf(role)
  return row([
    patterned(role.letter, wanted, at),
    words(role.name),
    words(patternOf(at)),
    words(state),
    swatch(wanted, wanted),
    numeral(entry.index),
    swatch(entry.name, entry.colour),
    numeral(Number(off.toFixed(2))),
  ])
}

function noteOf(entries: readonly PaletteEntry[], near: readonly string[]): { note?: string } {
  if (!knowsColours(entries))
    return { note: 'These lights know no colours: the letter tells the roles apart.' }
  return near.length > 0 ? { note: `Hardly told apart: ${near.join('; ')}.` } : {}
}

function sectionOf(
  rig: Rig,
  controller: Controller,
  kind: ControlKind,
  roles: readonly LightRole[],
): Section {
  const entries = entriesFor(modelOf(rig, controller).abilities.lights, kind)
  const resolved = resolve(roles, entries)
  const near = alikes(resolved).map(
    ({ a, b, vision }) =>
      `${a.role.name} ${a.state} and ${b.role.name} ${b.state}${vision === 'common' ? '' : ` (${vision})`}`,
  )
  return {
    heading: `${controller.name}: ${kind}`,
    ...noteOf(entries, near),
    table: {
      columns: columns('Letter', 'Role', 'Pattern', 'State', 'Wanted', { figures: 'Number' }, 'Shown', {
        figures: 'Off by',
      }),
      rows: resolved.map((each) => rowOf(each, roles)),
    },
  }
}

/** What the lights say: every role with its colours, and the palette numbers that show them on each controller. */
export function lightKey(rig: Rig): SheetDocument {
  const lit = rig.controllers.filter(({ inUse }) => inUse)
  const sections = lit.flatMap((controller) =>
    kindsOf(rig, controller).map((kind) => sectionOf(rig, controller, kind, rig.lightRoles)),
  )
  return {
    title: 'Light key',
    subtitle: rig.name,
    facts: [
      {
        label: 'Roles',
        value: rig.lightRoles.map(({ letter, name }) => `${letter} ${name}`).join(', ') || 'none yet',
      },
    ],
    sections:
      rig.lightRoles.length === 0
        ? [
            {
              heading: 'No role yet',
              note: 'Make roles in the lens on lights: what a light says, and in which colours.',
            },
          ]
        : sections,
  }
}
