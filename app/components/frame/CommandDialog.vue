<script setup lang="ts">
import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogPanel,
  DialogTitle,
} from '@headlessui/vue'
import { powerUpShowing, turnOffUnused } from '#core/rig'
import { focusWhenThere } from '~/lib/focus'
import { findHits, type Command, type Hit } from '~/lib/commands'
import { KINDS as PLAN_KINDS } from '~/lib/plan/words'

const emit = defineEmits<{ done: []; shortcuts: [] }>()
const rigs = useRigStore()
const desk = useDeskStore()
const shelf = useShelfStore()
const preferences = usePreferencesStore()
const edit = useEdit()
const { chooseFile, exportRig } = useRigFiles()
const query = ref('')

const onDesk = (act: () => void) => async (): Promise<void> => {
  act()
  await navigateTo('/desk')
}
const lattice = (family: typeof desk.family) =>
  onDesk(() => {
    desk.family = family
    desk.isListing = false
  })
const adding = useAddingStore()
const wider = useWiderSelection()
const plans = usePlanStore()
const panel = (name: typeof desk.panel) =>
  onDesk(() => {
    desk.panel = name
    focusWhenThere('[data-testid=side-panel]')
  })

const goProve = useGoProve()
function turnOff(): void {
  const { controller } = desk
  if (!rigs.rig || !controller) return
  edit(`Turn off what moves nothing on ${controller.name}`, turnOffUnused(rigs.rig, controller))
}

const commands = computed<Command[]>(() => [
  { name: 'Undo', about: rigs.undoLabel ?? 'nothing to undo', run: () => rigs.undo() },
  { name: 'Redo', about: rigs.redoLabel ?? 'nothing to redo', run: () => rigs.redo() },
  { name: 'Show the findings', about: 'what collides', run: panel('findings') },
  { name: 'Teach again', about: 'what destinations have to learn', run: panel('teach') },
  { name: 'Rehearse the rig', about: 'prove every mapping in simulation', run: () => goProve('rehearse') },
  { name: 'Teach one by one', about: 'each control sent alone', run: () => goProve('teach') },
  { name: 'Check the line', about: 'is the hardware as written?', run: () => goProve('line') },
  { name: 'Memory slots', about: 'fetch, compare and store', run: () => goProve('slots') },
  { name: 'Recipes', about: 'how real hardware takes its template', run: () => goProve('recipes') },
  {
    name: 'Show what controls move',
    about: 'the lens on destinations',
    run: onDesk(() => (preferences.lens = 'destinations')),
  },
  {
    name: 'Show behaviour',
    about: 'the lens on behaviour',
    run: onDesk(() => (preferences.lens = 'behaviour')),
  },
  { name: 'Show lights', about: 'the lens on lights', run: onDesk(() => (preferences.lens = 'lights')) },
  {
    name: 'Show addresses',
    about: 'the lens on addresses',
    run: onDesk(() => (preferences.lens = 'addresses')),
  },
  {
    name: 'Add a controller',
    about: 'blank, or from a generic one',
    run: () => (adding.what = 'controller'),
  },
  {
    name: 'Add a destination',
    about: 'DAW, synth, drum machine, effect',
    run: () => (adding.what = 'destination'),
  },
  ...(desk.selected.length > 0
    ? [
        { name: 'Select its block', about: 'or theirs', run: onDesk(wider.wholeBlock) },
        { name: 'Select its row', about: 'across blocks', run: onDesk(wider.wholeRow) },
        { name: 'Select its column', about: 'a strip, say', run: onDesk(wider.wholeColumn) },
        { name: `Select all ${wider.kindWords.value}`, about: '', run: onDesk(wider.allOfKind) },
      ]
    : []),
  { name: 'Draw the surface', about: 'of the controller shown', run: panel('draw') },
  { name: 'Draw by moving', about: 'real hardware, control after control', run: panel('draw-by-moving') },
  { name: 'Learn by moving', about: 'what the controls really send', run: panel('learn-by-moving') },
  { name: 'Templates, stacks and layers', about: 'of the controller shown', run: panel('templates') },
  { name: 'The controller itself', about: 'name, home channel, abilities', run: panel('controller') },
  {
    name: 'The assignments as a table',
    about: 'or the surface again',
    run: onDesk(() => (preferences.upperView = preferences.upperView === 'ledger' ? 'surface' : 'ledger')),
  },
  ...(rigs.rig?.passages ?? []).map((passage) => ({
    name: `Show the passage ${passage.name}`,
    about: 'what every controller shows in it',
    run: onDesk(() => desk.showPassage(passage)),
  })),
  ...PLAN_KINDS.map(({ value, label, about }) => ({
    name: `Plan addresses: ${label.toLowerCase()}`,
    about,
    run: onDesk(() => plans.open(value)),
  })),
  { name: 'Turn off what moves nothing', about: desk.controller?.name ?? '', run: turnOff },
  { name: 'Lattice of CC', about: '', run: lattice('cc') },
  { name: 'Lattice of notes', about: '', run: lattice('note') },
  { name: 'Lattice of programs', about: '', run: lattice('program') },
  { name: 'NRPN and RPN', about: 'the parameters that arrive', run: onDesk(() => (desk.isListing = true)) },
  {
    name: preferences.askBefore ? 'Change without asking' : 'Ask before a change breaks a mapping',
    about: preferences.askBefore
      ? 'what must be taught again is not shown first'
      : 'what must be taught again is shown first',
    run: () => (preferences.askBefore = !preferences.askBefore),
  },
  { name: 'Go to Sheets', about: '', run: () => navigateTo('/sheets') },
  { name: 'History', about: 'what changed, versions', run: () => navigateTo('/history') },
  { name: 'Backup', about: 'one file of all rigs', run: () => navigateTo('/history#backup') },
  { name: 'Take in a part', about: 'from a file or another rig', run: () => navigateTo('/rig') },
  { name: 'Light', about: 'theme', run: () => (preferences.themeChoice = 'vellum') },
  { name: 'Dark', about: 'theme', run: () => (preferences.themeChoice = 'night') },
  { name: 'New rig', about: '', run: () => shelf.openEmpty() },
  { name: 'Import a file', about: '', run: () => chooseFile() },
  { name: 'Export the rig', about: 'as JSON', run: () => exportRig() },
  { name: 'Keyboard shortcuts', about: '?', run: () => emit('shortcuts') },
])
const hits = computed(() => findHits(rigs.rig, commands.value, query.value))

async function take(hit: Hit | null): Promise<void> {
  if (!hit) return
  emit('done')
  switch (hit.kind) {
    case 'command':
      await hit.run()
      return
    case 'sender':
      desk.goTo(hit.place)
      break
    case 'control': {
      desk.chooseController(hit.controller)
      desk.selectMany([hit.control])
      break
    }
    case 'layer': {
      desk.chooseController(hit.controller)
      const owner = desk.controller
      if (owner && desk.template?.id !== hit.template)
        desk.chooseTemplate(powerUpShowing(owner, hit.template).template)
      desk.chooseLayer(hit.stack, hit.layer)
    }
  }
  await navigateTo('/desk')
}
</script>

<template>
  <Dialog open class="relative z-50" @close="emit('done')">
    <div class="bg-ink/30 fixed inset-0" aria-hidden="true" />
    <div class="fixed inset-x-0 top-16 grid justify-items-center px-6">
      <DialogPanel
        class="bg-raised border-ink shadow-float w-full max-w-xl rounded-lg border p-2"
        data-testid="command-box"
      >
        <DialogTitle class="sr-only">Find or do</DialogTitle>
        <Combobox :model-value="null" @update:model-value="take">
          <ComboboxInput
            class="bg-sheet border-line h-9 w-full rounded-md border px-3 text-base"
            placeholder="A control, a layer, an address such as 5:cc74, or what to do"
            aria-label="Find or do"
            autocomplete="off"
            @change="query = $event.target.value"
          />
          <ComboboxOptions
            v-if="hits.length > 0"
            static
            class="mt-1.5 max-h-80 overflow-auto"
            aria-label="Found"
          >
            <ComboboxOption
              v-for="hit in hits"
              :key="`${hit.kind}-${hit.id}`"
              v-slot="{ active }"
              :value="hit"
            >
              <div
                class="flex items-baseline justify-between gap-4 rounded px-3 py-1"
                :class="active && 'bg-marker text-on-marker'"
                :data-hit="hit.kind"
              >
                <span :class="hit.kind === 'sender' && 'tag'">{{ hit.name }}</span>
                <span class="truncate text-xs opacity-75">{{ hit.about }}</span>
              </div>
            </ComboboxOption>
          </ComboboxOptions>
          <p v-else class="text-soft px-3 py-2" role="status">Nothing is called that, and nobody sends it.</p>
        </Combobox>
      </DialogPanel>
    </div>
  </Dialog>
</template>
