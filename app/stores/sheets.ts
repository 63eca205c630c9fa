import { wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import type { Rig } from '#core/rig'
import type { Chosen, SheetDocument } from '#core/sheets'
import type { SheetHits } from '#core/sheets/search'
import type { ListedSheet, SheetGroup, SheetMaker, Wanted, Written } from '~/workers/sheets'
import { useRigStore } from './rig'

/** The id of the book among the sheets. */
export const BOOK = 'book'
const MOST_HITS = 60
const NOTHING_FOUND: SheetHits = { hits: [], count: 0 }

/** What a book is bound from unless the player chooses: what is needed on stage, not what is looked up once. */
const LOOKED_UP: ReadonlySet<string> = new Set(['channels', 'implementation', 'wake'])

/** The player has stopped what was being made. */
class StoppedError extends Error {
  override name = 'StoppedError'
}

/** The sheets of the open rig, as a worker makes them. */
export const useSheetsStore = defineStore('sheets', () => {
  const rigs = useRigStore()
  const groups = shallowRef<readonly SheetGroup[]>([])
  const chosenId = ref('')
  const options = ref<Record<string, Chosen>>({})
  const sheet = shallowRef<SheetDocument | null>(null)
  const failure = ref<string | null>(null)
  const isMaking = ref(false)
  /** The format that is being written. */
  const writing = ref<string | null>(null)
  const search = ref('')
  const found = shallowRef<SheetHits>(NOTHING_FOUND)
  /** A line of the sheet that is shown, to be brought into view: its section and line. */
  const sought = shallowRef<{ section: number; line: number } | null>(null)
  /** The line that is sought once its sheet is made: the one that is shown until then has other lines. */
  let soughtNext: typeof sought.value = null
  const unbound = ref<ReadonlySet<string>>(new Set())
  const bound = ref<ReadonlySet<string>>(new Set())
  const paper = ref<SheetDocument['paper']>('a4')
  let maker: Remote<SheetMaker> | null = null
  let worker: Worker | null = null
  let ended: Promise<never> = new Promise(() => {})
  let end: (why: Error) => void = () => {}
  let taken = -1

  const all = computed(() => groups.value.flatMap((group) => group.sheets))
  const current = computed<ListedSheet | null>(
    () =>
      all.value.find(({ id }) => id === chosenId.value) ??
      (chosenId.value === BOOK ? null : (all.value[0] ?? null)),
  )
  const isBook = computed(() => chosenId.value === BOOK)
  const chosen = computed<Chosen>(() => (current.value ? (options.value[current.value.id] ?? {}) : {}))

  function connect(): Remote<SheetMaker> {
    if (maker) return maker
    const started = new Worker(new URL('../workers/sheets.worker.ts', import.meta.url), { type: 'module' })
    ended = new Promise<never>((_, reject) => {
      end = reject
      started.onerror = (event) => reject(new Error(event.message || 'The maker of sheets could not start.'))
    })
    ended.catch(() => stop())
    worker = started
    maker = wrap<SheetMaker>(started)
    return maker
  }
  /** End the worker and whatever it is doing; the next question starts another. */
  function stop(): void {
    end(new StoppedError('Stopped.'))
    worker?.terminate()
    worker = null
    maker = null
    taken = -1
  }

  /** Ask the worker, which has the rig as it is now. Rejected where the worker fails or dies. */
  async function ask<T>(question: (to: Remote<SheetMaker>) => Promise<T>): Promise<T> {
    const to = connect()
    const { rig, revision } = rigs
    if (rig && taken !== revision) {
      taken = revision
      groups.value = await Promise.race([to.take(rig), ended])
    }
    return Promise.race([question(to), ended])
  }

  const say = (error: unknown): void => {
    if (!(error instanceof StoppedError))
      failure.value = error instanceof Error ? error.message : String(error)
  }

  let turn = 0
  async function refresh(): Promise<void> {
    if (!rigs.rig) {
      groups.value = []
      sheet.value = null
      return
    }
    const mine = ++turn
    isMaking.value = true
    try {
      // First the list, as which sheet is the first is known from it.
      await ask(async () => {})
      const next = isBook.value
        ? null
        : current.value &&
          (await ask((to) => to.make({ id: current.value?.id ?? '', chosen: { ...chosen.value } })))
      if (mine !== turn) return
      sheet.value = next
      failure.value = null
      if (soughtNext) sought.value = soughtNext
      soughtNext = null
    } catch (error) {
      if (mine === turn) say(error)
    } finally {
      if (mine === turn) isMaking.value = false
    }
  }

  function choose(id: string): void {
    chosenId.value = id
    sought.value = null
    soughtNext = null
  }
  function set(option: string, value: string): void {
    if (current.value)
      options.value = { ...options.value, [current.value.id]: { ...chosen.value, [option]: value } }
  }

  async function look(): Promise<void> {
    const text = search.value
    try {
      const hits = text.trim() === '' ? NOTHING_FOUND : await ask((to) => to.search(text, MOST_HITS))
      if (text === search.value) found.value = hits
    } catch (error) {
      say(error)
    }
  }
  function goTo(id: string, section: number, line: number): void {
    chosenId.value = id
    options.value = { ...options.value, [id]: {} }
    sought.value = null
    soughtNext = { section, line }
  }

  /** Sheets that the book is bound from, in the order of the list. */
  const inBook = computed(() =>
    all.value.filter(({ id, kind }) => (LOOKED_UP.has(kind) ? bound.value.has(id) : !unbound.value.has(id))),
  )
  function bind(id: string, isIn: boolean): void {
    const kind = all.value.find((each) => each.id === id)?.kind ?? ''
    const list = LOOKED_UP.has(kind) ? bound : unbound
    const next = new Set(list.value)
    if (LOOKED_UP.has(kind) === isIn) next.add(id)
    else next.delete(id)
    list.value = next
  }

  /** Write the sheet, or the book, as a file of a format, with the day in its foot; null where that failed, which is said. */
  async function writeIn(
    format: string,
    work: (to: Remote<SheetMaker>) => Promise<Written>,
  ): Promise<Written | null> {
    writing.value = format
    try {
      const written = await ask(work)
      failure.value = null
      return written
    } catch (error) {
      say(error)
      return null
    } finally {
      writing.value = null
    }
  }

  const write = (format: string, date: string): Promise<Written | null> =>
    writeIn(format, (to) =>
      isBook.value
        ? to.writeBook(
            inBook.value.map(({ id }): Wanted => ({ id, chosen: { ...(options.value[id] ?? {}) } })),
            date,
            paper.value,
            format,
          )
        : to.write({ id: current.value?.id ?? '', chosen: { ...chosen.value } }, format, date),
    )

  /** What changed from an earlier rig, which is called so, to a later one. */
  const writeChanges = (
    before: Rig,
    after: Rig,
    since: string,
    format: string,
    date: string,
  ): Promise<Written | null> =>
    writeIn(format, (to) => to.writeChanges(toRaw(before), toRaw(after), since, format, date))

  /** The drawing of a section as SVG. */
  const drawing = (section: number): Promise<string | null> =>
    ask((to) => to.drawing({ id: current.value?.id ?? '', chosen: { ...chosen.value } }, section))

  return {
    groups,
    all,
    current,
    chosen,
    isBook,
    sheet,
    failure,
    isMaking,
    writing,
    search,
    found,
    sought,
    inBook,
    paper,
    choose,
    set,
    refresh,
    look,
    goTo,
    bind,
    write,
    writeChanges,
    drawing,
    stop,
  }
})
