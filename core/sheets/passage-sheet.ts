import {
  gestureName,
  modelOf,
  powerUpShowing,
  rigIndex,
  showingIn,
  shownPlace,
  type Controller,
  type Id,
  type Passage,
  type Place,
  type Rig,
  type Showing,
} from '../rig'
import { doesAt, tagsAt } from './doing'
import { columns, figure, row, words, type Row, type Section, type SheetDocument } from './document'

/** Which lines of a passage are wanted: every control, or those that do something else than before. */
export type PassageLines = 'all' | 'changes'

interface Doing {
  name: string
  place: Place | null
  does: string
  tags: string
}

const LAYERLESS = 'nothing: no layer shows'

function doingOf(rig: Rig, controller: Controller, showing: Showing): Doing[] {
  return modelOf(rig, controller).surface.controls.flatMap((control) =>
    control.silent
      ? []
      : control.gestures.map((gesture): Doing => {
          const place = shownPlace(controller, showing, `${control.id}.${gesture}`)
          return {
            name: gestureName(control, gesture),
            place,
            does: place ? doesAt(rig, place).join('; ') : LAYERLESS,
            tags: place ? tagsAt(rig, place).join(', ') : '',
          }
        }),
  )
}

/** What a control did before, where that was something else. */
const wasBefore = (before: Doing | undefined, now: Doing): string => {
  if (!before || (before.does === now.does && before.tags === now.tags)) return ''
  return [before.tags, before.does].filter(Boolean).join(' ') || 'nothing'
}

function layersShown(controller: Controller, { template, layers }: Showing): string {
  const found = controller.templates.find(({ id }) => id === template)
  const names = found?.stacks.map(({ id, name, layers: all }) => {
    const layer = all.find((each) => each.id === layers[id])
    return `${name}: ${layer?.name ?? 'none'}`
  })
  return [found?.name ?? '', ...(names ?? [])].join('; ')
}

const COLUMNS = columns('Control', 'Sends', 'Does now', 'Was before')

function scopesOf(rig: Rig, { scopes }: Passage): string {
  return scopes
    .flatMap(({ destination: id, scope }) => {
      const destination = rigIndex(rig).destinations.get(id)
      const name = destination?.scopes.find((each) => each.id === scope)?.name
      return destination ? `${destination.name}: ${name ?? 'none'}` : []
    })
    .join('; ')
}

/** What every control does in each part of the show, and what changes from the part before. */
export function passageSheet(rig: Rig, lines: PassageLines = 'all'): SheetDocument {
  const playing = rig.controllers.filter(({ inUse }) => inUse)
  const sections: Section[] = []
  let showing = new Map<Id, Showing>(playing.map((controller) => [controller.id, powerUpShowing(controller)]))
  let before = new Map<Id, Doing[]>()
  rig.passages.forEach((passage, number) => {
    const shown = new Map<Id, Showing>()
    const doing = new Map<Id, Doing[]>()
    for (const controller of playing) {
      const now = showingIn(passage, controller, showing.get(controller.id) ?? powerUpShowing(controller))
      shown.set(controller.id, now)
      doing.set(controller.id, doingOf(rig, controller, now))
    }
    for (const controller of playing) {
      const all = doing.get(controller.id) ?? []
      const old = before.get(controller.id)
      const rows = all.flatMap((now, index): Row[] => {
        const was = number === 0 ? '' : wasBefore(old?.[index], now)
        if (lines === 'changes' && number > 0 && was === '') return []
        if (now.tags === '' && now.does === '' && was === '') return []
        const lead = now.place ? ({ kind: 'place', place: now.place } as const) : undefined
        return [row([words(now.name), figure(now.tags), words(now.does), words(was)], lead)]
      })
      const state = layersShown(controller, shown.get(controller.id) ?? powerUpShowing(controller))
      sections.push({
        heading: `${number + 1} ${passage.name}: ${controller.name}`,
        note: rows.length > 0 ? state : `${state}. Nothing changes.`,
        table: { columns: COLUMNS, rows },
      })
    }
    showing = shown
    before = doing
  })
  return {
    title: 'Passages',
    subtitle: rig.name,
    facts: rig.passages.flatMap((passage, number) => {
      const value = scopesOf(rig, passage)
      return value === '' ? [] : [{ label: `${number + 1} ${passage.name}`, value }]
    }),
    sections:
      sections.length > 0
        ? sections
        : [
            {
              heading: 'No passage yet',
              note: 'Add the parts of the show under Passages in Rig: what every controller shows in each.',
            },
          ],
  }
}
