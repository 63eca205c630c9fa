<script setup lang="ts">
import { Copy, ListTree, Trash2 } from '@lucide/vue'
import type { Destination, RigEdit } from '#core/rig'
import { freeId } from '#core/rig'

const { destination } = defineProps<{ destination: Destination }>()
const rigs = useRigStore()
const edit = useEdit()
const takeAway = useRemoval()

const KINDS: ReadonlyArray<{ kind: Destination['kind']; name: string }> = [
  { kind: 'daw', name: 'DAW' },
  { kind: 'plugin', name: 'plugin' },
  { kind: 'synth', name: 'synth' },
  { kind: 'drum-machine', name: 'drum machine' },
]
type Settings = Extract<RigEdit, { type: 'destination-set' }>['set']
const set = (label: string, change: Settings): boolean =>
  edit(label, [{ type: 'destination-set', destination: destination.id, set: change }])
const picture = usePictureStore()
/** The same again, without its cables and mappings. */
function duplicate(): void {
  const { rig } = rigs
  if (!rig) return
  const id = freeId('destination', [...rig.controllers, ...rig.destinations, ...rig.boxes, ...rig.computers])
  const copy: Destination = {
    ...structuredClone(toRaw(destination)),
    id,
    name: `${destination.name} copy`,
    unit: null,
  }
  if (edit(`Duplicate ${destination.name}`, [{ type: 'destination-add', destination: copy }]))
    picture.select({ kind: 'destination', id })
}
const others = computed(() => rigs.rig?.destinations.filter(({ id }) => id !== destination.id) ?? [])
const controllers = computed(() => rigs.rig?.controllers ?? [])

/** Every port of every computer that the software could open. */
const openable = computed(
  () =>
    rigs.rig?.computers.flatMap(({ id: computer, name: owner, ports }) =>
      ports.map(({ id: port, name }) => ({
        key: `${computer}/${port}`,
        name: `${owner} · ${name}`,
        computer,
        port,
      })),
    ) ?? [],
)
function opensPort(port: string, event: Event): void {
  const key = (event.target as HTMLSelectElement).value
  const found = openable.value.find((each) => each.key === key)
  edit(found ? `Open ${found.name}` : 'Open no port', [
    {
      type: 'port-set',
      owner: destination.id,
      port,
      set: { opens: found ? { computer: found.computer, port: found.port } : null },
    },
  ])
}
const FIELD = 'bg-raised border-line h-7 max-w-52 rounded-md border px-1.5'
const textFrom = (event: Event): string => (event.target as HTMLSelectElement).value
</script>

<template>
  <div class="flex flex-col gap-3 px-5 py-4" data-testid="destination-panel">
    <div>
      <p class="text-soft text-xs font-medium">Destination</p>
      <InlineName
        class="-ml-1.5 w-full text-lg font-bold!"
        :value="destination.name"
        label="Name of the destination"
        @change="set(`Name it ${$event}`, { name: $event })"
      />
    </div>
    <UiButton look="strong" class="self-start" data-testid="open-lists" @click="picture.open(destination.id)"
      ><ListTree :size="13" />Parameters, sounds, presets</UiButton
    >
    <div class="grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5">
      <label for="destination-kind" class="text-soft text-xs">Kind</label>
      <select
        id="destination-kind"
        :class="FIELD"
        :value="destination.kind"
        @change="set('Kind of destination', { kind: textFrom($event) as Destination['kind'] })"
      >
        <option v-for="each in KINDS" :key="each.kind" :value="each.kind">{{ each.name }}</option>
      </select>
      <label for="destination-inside" class="text-soft text-xs">Runs inside</label>
      <select
        id="destination-inside"
        :class="FIELD"
        :value="destination.inside ?? ''"
        @change="set('Where it runs', { inside: textFrom($event) === '' ? null : textFrom($event) })"
      >
        <option value="">nothing: it stands alone</option>
        <option v-for="each in others" :key="each.id" :value="each.id">{{ each.name }}</option>
      </select>
      <label for="destination-unit" class="text-soft text-xs">Same box as</label>
      <span class="flex flex-wrap items-center gap-1.5">
        <select
          id="destination-unit"
          :class="FIELD"
          :value="destination.unit?.controller ?? ''"
          @change="
            set('One instrument', {
              unit: textFrom($event) === '' ? null : { controller: textFrom($event), localControl: true },
            })
          "
        >
          <option value="">no controller</option>
          <option v-for="each in controllers" :key="each.id" :value="each.id">{{ each.name }}</option>
        </select>
        <ChipToggle
          v-if="destination.unit"
          :is-on="destination.unit.localControl"
          @click="
            set('Local control', {
              unit: { ...destination.unit, localControl: !destination.unit.localControl },
            })
          "
          >local control {{ destination.unit.localControl ? 'on' : 'off' }}</ChipToggle
        >
      </span>
    </div>
    <section>
      <h3 class="mb-1 font-bold">Hears while played</h3>
      <HearingFields
        :hearing="destination.hears.playing"
        :port-count="destination.ports.length"
        @change="
          edit('What it hears', [
            { type: 'hearing-set', destination: destination.id, for: 'playing', hearing: $event },
          ])
        "
      />
      <h3 class="mt-2 mb-1 font-bold">Hears while learning</h3>
      <HearingFields
        :hearing="destination.hears.learning"
        :port-count="destination.ports.length"
        @change="
          edit('What it hears while learning', [
            { type: 'hearing-set', destination: destination.id, for: 'learning', hearing: $event },
          ])
        "
      />
    </section>
    <DestinationManners :destination="destination" />
    <ClaimList :destination="destination" />
    <section v-if="openable.length > 0 && destination.ports.length > 0">
      <h3 class="font-bold">Opens on a computer</h3>
      <label v-for="port in destination.ports" :key="port.id" class="mt-1 flex items-center gap-2 text-xs">
        <span class="text-soft w-20 truncate">{{ port.name }}</span>
        <select
          :class="FIELD"
          :value="port.opens ? `${port.opens.computer}/${port.opens.port}` : ''"
          @change="opensPort(port.id, $event)"
        >
          <option value="">no computer port</option>
          <option v-for="each in openable" :key="each.key" :value="each.key">{{ each.name }}</option>
        </select>
      </label>
    </section>
    <PortList class="border-line border-t pt-3" :owner="destination.id" :directions="['in', 'out', 'thru']" />
    <div class="flex gap-1.5">
      <UiButton data-testid="duplicate-destination" @click="duplicate"><Copy :size="13" />Duplicate</UiButton>
      <UiButton
        @click="
          takeAway(`Remove ${destination.name}`, [
            { type: 'destination-remove', destination: destination.id },
          ])
        "
        ><Trash2 :size="13" />Remove {{ destination.name }}</UiButton
      >
    </div>
  </div>
</template>
