<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { newBox, newComputer } from '#core/rig'

/** What is selected in the picture, with its settings; else what can be added. */
const rigs = useRigStore()
const desk = useDeskStore()
const picture = usePictureStore()
const adding = useAddingStore()
const edit = useEdit()

const at = computed(() => picture.current)
const find = <T extends { id: string }>(items: readonly T[] | undefined, kind: string): T | null =>
  (at.value?.kind === kind && items?.find(({ id }) => id === at.value?.id)) || null
const controller = computed(() => find(rigs.rig?.controllers, 'controller'))
const destination = computed(() => find(rigs.rig?.destinations, 'destination'))
const box = computed(() => find(rigs.rig?.boxes, 'box'))
const computer = computed(() => find(rigs.rig?.computers, 'computer'))
const cable = computed(() => find(rigs.rig?.cables, 'cable'))

const kept = computed(() => {
  if (controller.value) return { kind: 'controller' as const, id: controller.value.id }
  return destination.value ? { kind: 'destination' as const, id: destination.value.id } : null
})

function addBox(): void {
  if (!rigs.rig) return
  const box = newBox(rigs.rig)
  if (edit('Add a box', [{ type: 'box-add', box }])) picture.select({ kind: 'box', id: box.id })
}
function addComputer(): void {
  if (!rigs.rig) return
  const computer = newComputer(rigs.rig)
  if (edit('Add a computer', [{ type: 'computer-add', computer }]))
    picture.select({ kind: 'computer', id: computer.id })
}
async function toDesk(id: string): Promise<void> {
  desk.chooseController(id)
  await navigateTo('/desk')
}
</script>

<template>
  <aside
    class="bg-sheet border-line h-full overflow-y-auto border-l max-[1000px]:border-t max-[1000px]:border-l-0"
    aria-label="Selected in the rig"
  >
    <CablePanel v-if="cable" :cable="cable" />
    <DestinationPanel v-else-if="destination" :key="destination.id" :destination="destination" />
    <DevicePanel v-else-if="box || computer" :key="at?.id" :box="box" :computer="computer" />
    <div v-else-if="controller" :key="controller.id" class="flex flex-col gap-3 px-5 py-4">
      <div>
        <p class="text-soft text-xs font-medium">Controller</p>
        <h2 class="text-lg font-bold">{{ controller.name }}</h2>
        <p class="text-soft">
          {{ controller.inUse ? `in use, home channel ${controller.homeChannel}` : 'put away' }}
        </p>
      </div>
      <UiButton class="self-start" @click="toDesk(controller.id)">Open on the Desk</UiButton>
      <PortList
        class="border-line border-t pt-3"
        :owner="controller.id"
        :directions="['in', 'out', 'thru']"
      />
    </div>
    <div v-else class="px-5 py-5">
      <h2 class="text-lg font-bold">Your rig</h2>
      <p class="text-soft mt-2">
        What sends stands at the left, what sounds at the right. Pick a card to see what it hears and keeps, a
        cable to say what it lets pass. Drag from an out to an in to join them.
      </p>
      <LazyFirstSteps class="mt-4" />
      <PassageList class="border-line mt-4 border-t pt-3" />
    </div>
    <div class="border-line mx-5 mb-3 flex flex-wrap gap-1.5 border-t pt-3">
      <UiButton @click="adding.what = 'controller'"><Plus :size="13" />Controller</UiButton>
      <UiButton data-testid="add-destination" @click="adding.what = 'destination'"
        ><Plus :size="13" />Destination</UiButton
      >
      <UiButton @click="addBox"><Plus :size="13" />Box</UiButton>
      <UiButton @click="addComputer"><Plus :size="13" />Computer</UiButton>
    </div>
    <LazyPartsPanel class="mx-5 mb-5" :kept="kept" />
  </aside>
</template>
