import { promiseTimeout } from '@vueuse/core'
import { acceptHMRUpdate, defineStore } from 'pinia'
import { EditError, perform, redone, undone, type Patch, type Rig, type RigEdit, type Step } from '#core/rig'
import { afterPaint } from '~/lib/after-paint'
import { createKeeper, type KeepState } from '~/storage/keeper'
import {
  answerTabs,
  askHolder,
  awaitRig,
  isRigHeld,
  takeRig,
  type RigLock,
  type Turn,
  type Wish,
} from '~/storage/lock'
import { loadRig, takeOwnership, writeWhole, type Change as LogChange } from '~/storage/shelf'
import { database, onDatabaseGone } from '~/storage/open'

/** Why this tab may only read: another holds the rig, took it over, or threw it away. */
export type ReadReason = 'open-elsewhere' | 'taken-over' | 'deleted'

/** After so long it is said that something is not kept yet. */
const LONG_MS = 1000

/** A page that was left a moment ago may still hold the rig: so long is waited before it counts as another tab. */
const PAGE_LEFT_MS = 300

/** How the rig came to be as it is now: loaded whole, or by patches to the one before. */
export type Change = { kind: 'loaded' } | { kind: 'patched'; patches: readonly Patch[] }

/** A step that is worked out but not made. */
export interface Prepared {
  before: Rig
  rig: Rig
  step: Step
}

/** The open rig and its history. All changes go through `edit`, `undo` and `redo`. */
export const useRigStore = defineStore('rig', () => {
  const id = ref<string | null>(null)
  const rig = shallowRef<Rig | null>(null)
  const past = shallowRef<readonly Step[]>([])
  const future = shallowRef<readonly Step[]>([])
  const revision = ref(0)
  const change = shallowRef<Change>({ kind: 'loaded' })
  const readReason = ref<ReadReason | null>(null)
  const keepState = ref<KeepState>('kept')
  /** Has writing been going on for so long that the player should know? */
  const isKeptLate = ref(false)
  /** Is what happens here kept from now on, or known to be kept nowhere? Until then nothing can be edited. */
  const isInHand = ref(false)
  /** Edits that are shown and were not kept before this tab lost the rig. */
  const isLeftOver = ref(false)

  /** The rigs before and after a step made in this tab: going back to one is quicker than patching. */
  const versions = new WeakMap<Step, { before: Rig; after: Rig }>()

  const owner = crypto.randomUUID()
  let lock: RigLock | null = null
  /** Does the shelf know that this tab writes? */
  let isClaimed = false
  let turn: Turn | null = null
  let late: ReturnType<typeof setTimeout> | undefined
  const keeper = createKeeper({
    database,
    owner,
    whenFree: afterPaint,
    now: Date.now,
    onLost: (loss) => loseTo(loss),
    onState: (state, error) => {
      keepState.value = state
      if (error !== null) console.error('The last edits could not be kept; it is tried again.', error)
      clearTimeout(late)
      if (state === 'kept') isKeptLate.value = false
      else late = setTimeout(() => (isKeptLate.value = true), LONG_MS)
    },
  })

  const canEdit = computed(() => rig.value !== null && isInHand.value && readReason.value === null)
  const undoLabel = computed(() => past.value.at(-1)?.label ?? null)
  const redoLabel = computed(() => future.value[0]?.label ?? null)

  function show(next: Rig, how: Change): void {
    rig.value = next
    change.value = how
    revision.value++
  }

  function loseTo(reason: ReadReason): void {
    if (!keeper.isKept()) isLeftOver.value = true
    keeper.stop()
    keepState.value = 'kept'
    readReason.value = reason
    letGo()
    // What could not be kept stays on the screen: nothing is to be loaded over it.
    if (id.value === null || reason === 'deleted' || isLeftOver.value) return
    turn = awaitRig(id.value)
    goOnIn(id.value, turn)
  }

  /** Another tab wants the rig: what was edited here is kept first, and nothing more is edited. Null if it is not here. */
  function yieldTo(target: string, wish: Wish): Promise<void> | null {
    return target !== id.value || lock === null ? null : keepForOther(wish)
  }

  async function keepForOther(wish: Wish): Promise<void> {
    readReason.value = wish === 'delete' ? 'deleted' : 'taken-over'
    await keeper.settled()
    if (!keeper.isKept()) isLeftOver.value = true
    if (wish === 'delete') loseTo('deleted')
  }

  /** Does this tab show what another does? Not while it still keeps its own last edits. */
  const isFollowing = (): boolean => readReason.value !== null && lock === null

  function letGo(): void {
    isInHand.value = false
    turn?.giveUp()
    turn = null
    lock?.release()
    lock = null
  }

  /** Write something that can wait: a full disk is no reason not to open a rig. */
  async function done(write: () => Promise<unknown>): Promise<boolean> {
    try {
      await write()
      return true
    } catch (error) {
      console.error('The storage could not be written; it is tried again with the next edit.', error)
      return false
    }
  }

  async function hold(target: string, granted: RigLock): Promise<void> {
    lock = granted
    turn = null
    granted.onLost(() => loseTo('taken-over'))
    isClaimed = await done(() => takeOwnership(database(), target, owner, Date.now()))
  }

  /** When the other tab is closed, this one goes on. */
  function goOnIn(target: string, queued: Turn): void {
    void queued.granted.then(async (granted) => {
      if (turn !== queued) return
      await hold(target, granted)
      await reload(target)
    })
  }

  /** Load what stands on the shelf, without asking for the right to write. */
  async function reload(target: string): Promise<boolean> {
    // What this tab could not keep is not shown over by what another has kept.
    if (isLeftOver.value && target === id.value) return true
    const open = await loadRig(database(), target)
    if (!open) return false
    const isRewritten =
      open.isRenewed &&
      lock !== null &&
      (await done(() => writeWhole(database(), target, owner, open, Date.now())))
    id.value = target
    past.value = open.past
    future.value = open.future
    show(open.rig, { kind: 'loaded' })
    if (lock) {
      const before = isClaimed ? undefined : { owner: open.entry.owner }
      keeper.start(target, isRewritten ? 0 : open.entry.position, before)
      if (open.isRenewed && !isRewritten) keeper.rewrite(open)
      readReason.value = null
      isInHand.value = true
    }
    return true
  }

  /** Show a rig that is kept nowhere. */
  function openInMemory(unkept: Rig): void {
    close()
    show(unkept, { kind: 'loaded' })
    isInHand.value = true
  }

  /**
   * Open a rig; to read only if another tab is editing it. False if it is not there, and while edits of the open one
   * cannot be kept. Where it cannot be opened, the one that was open is again.
   */
  async function open(target: string, takeOver = false): Promise<boolean> {
    await keeper.settled()
    if (!keeper.isKept()) return false
    const before = id.value
    let isOpen = false
    try {
      isOpen = await goTo(target, takeOver)
      return isOpen
    } finally {
      if (!isOpen && before !== null && before !== target) await goTo(before, false)
    }
  }

  async function goTo(target: string, takeOver: boolean): Promise<boolean> {
    keeper.stop()
    letGo()
    isLeftOver.value = false
    if (takeOver) {
      await askHolder(target, 'take-over')
      await hold(target, await takeRig(target))
    } else {
      const queued = awaitRig(target)
      turn = queued
      const inTime = (ms: number): Promise<RigLock | null> =>
        Promise.race([queued.granted, promiseTimeout(ms).then(() => null)])
      let granted = await inTime(PAGE_LEFT_MS)
      // A busy machine may be late with a right that nobody else has.
      while (!granted && turn === queued && !(await isRigHeld(target))) granted = await inTime(PAGE_LEFT_MS)
      granted ??= await inTime(0)
      if (turn !== queued) return false
      if (granted) await hold(target, granted)
      else {
        readReason.value = 'open-elsewhere'
        goOnIn(target, queued)
      }
    }
    return reload(target)
  }

  const takeOver = async (): Promise<void> => {
    if (id.value !== null) await open(id.value, true)
  }

  function close(): void {
    keeper.stop()
    letGo()
    isLeftOver.value = false
    readReason.value = null
    id.value = null
    rig.value = null
    past.value = []
    future.value = []
  }

  /** What edits would make of the rig, without making them; or the sentence that says why they are refused. */
  function prepare(label: string, edits: readonly RigEdit[]): Prepared | string {
    if (!rig.value) return 'No rig is open.'
    if (readReason.value === 'deleted')
      return 'This rig was deleted in another tab. Keep it as a new rig first.'
    if (readReason.value !== null)
      return 'This rig is being edited in another tab. Take it over to change it here.'
    if (!canEdit.value) return 'The rig is just being opened. Try again in a moment.'
    try {
      return { before: rig.value, ...perform(rig.value, label, edits) }
    } catch (error) {
      if (error instanceof EditError) return error.message
      throw error
    }
  }

  /** Make what was prepared, as one step. Throws an Error where it was not prepared from the rig as it is. */
  function commit({ before, rig: next, step: made }: Prepared): void {
    if (made.patches.length === 0) return
    if (before !== rig.value) throw new Error('The rig has changed since this was prepared.')
    const step = { ...made, at: Date.now() }
    versions.set(step, { before, after: next })
    past.value = [...past.value, step]
    future.value = []
    show(next, { kind: 'patched', patches: step.patches })
    keep({ kind: 'step', step })
  }

  function keep(logged: LogChange): void {
    if (rig.value) keeper.add(logged, { rig: rig.value, past: past.value, future: future.value })
  }

  /** Make edits as one step. Gives null, or the sentence that says why they were refused. */
  function edit(label: string, edits: readonly RigEdit[]): string | null {
    const prepared = prepare(label, edits)
    if (typeof prepared === 'string') return prepared
    commit(prepared)
    return null
  }

  function undo(): string | null {
    const step = past.value.at(-1)
    if (!step || !rig.value || !canEdit.value) return null
    past.value = past.value.slice(0, -1)
    future.value = [step, ...future.value]
    const known = versions.get(step)
    const before = known?.after === rig.value ? known.before : undone(rig.value, step)
    if (!known) versions.set(step, { before, after: rig.value })
    move(before, step.inverse, -1)
    return step.label
  }

  function redo(): string | null {
    const [step, ...rest] = future.value
    if (!step || !rig.value || !canEdit.value) return null
    past.value = [...past.value, step]
    future.value = rest
    const known = versions.get(step)
    move(known?.before === rig.value ? known.after : redone(rig.value, step), step.patches, 1)
    return step.label
  }

  function move(next: Rig, patches: readonly Patch[], by: 1 | -1): void {
    show(next, { kind: 'patched', patches })
    keep({ kind: 'move', by })
  }

  /** Write all of it anew: the shelf was cleared under the open page. */
  function keepAnew(): void {
    if (rig.value && id.value !== null)
      keeper.rewrite({ rig: rig.value, past: past.value, future: future.value })
  }

  answerTabs(yieldTo)
  onDatabaseGone(keepAnew)

  return {
    id,
    rig,
    revision,
    change,
    past,
    future,
    readReason,
    keepState,
    isKeptLate,
    isLeftOver,
    canEdit,
    undoLabel,
    redoLabel,
    open,
    openInMemory,
    isFollowing,
    reload,
    loseTo,
    takeOver,
    close,
    prepare,
    commit,
    edit,
    undo,
    redo,
    settled: keeper.settled,
  }
})

if (import.meta.hot) import.meta.hot.accept(acceptHMRUpdate(useRigStore, import.meta.hot))
