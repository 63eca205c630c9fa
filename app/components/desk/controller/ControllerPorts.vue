<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { leadsIn, portKey, portsOf, type Port, type PortEnd } from '#core/rig'
import { freeId } from '~/lib/ids'

/** The sockets of a controller, and where the cables from its outs go. */
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()

const controller = computed(() => desk.controller)
const ends = computed(() => (rigs.rig ? portsOf(rigs.rig) : []))
const nameOf = (end: PortEnd): string => `${end.ownerName} · ${end.name}`

const rows = computed(() =>
  (controller.value?.ports ?? []).map((port) => {
    const key = portKey({ owner: controller.value?.id ?? '', port: port.id })
    const cables = (rigs.rig?.cables ?? []).flatMap((cable) => {
      if (portKey(cable.from) !== key) return []
      const end = ends.value.find(({ ref }) => portKey(ref) === portKey(cable.to))
      return end ? [{ id: cable.id, name: nameOf(end), to: portKey(cable.to) }] : []
    })
    const joined = new Set(cables.map(({ to }) => to))
    const offers = ends.value.filter(
      ({ ref, direction }) =>
        leadsIn(direction) && ref.owner !== controller.value?.id && !joined.has(portKey(ref)),
    )
    return { port, cables, offers }
  }),
)

const DIRECTIONS: ReadonlyArray<Port['direction']> = ['in', 'out', 'thru']

function add(direction: Port['direction']): void {
  if (!controller.value) return
  const port: Port = { id: freeId(direction, controller.value.ports), name: `Port ${direction}`, direction }
  edit(`Add ${port.name}`, [{ type: 'port-add', owner: controller.value.id, port }])
}

function join(port: Port, event: Event): void {
  const select = event.target as HTMLSelectElement
  const end = ends.value.find(({ ref }) => portKey(ref) === select.value)
  select.value = ''
  const { rig } = rigs
  if (!end || !controller.value || !rig) return
  edit(`Cable to ${nameOf(end)}`, [
    {
      type: 'cable-add',
      cable: {
        id: freeId('cable', rig.cables),
        from: { owner: controller.value.id, port: port.id },
        to: end.ref,
        rules: [],
        otherwise: 'pass',
      },
    },
  ])
}
</script>

<template>
  <section v-if="controller" class="border-line border-t pt-3" data-testid="controller-ports">
    <h3 class="font-bold">Ports and cables</h3>
    <p v-if="rows.length === 0" class="text-soft text-xs">
      Without a port nothing it sends arrives anywhere. Add an out, then join it to what listens.
    </p>
    <ul>
      <li v-for="{ port, cables, offers } in rows" :key="port.id" class="mt-1">
        <div class="flex items-center gap-1.5">
          <span class="text-soft w-8 shrink-0 text-xs">{{ port.direction }}</span>
          <InlineName
            class="border-line! bg-raised min-w-0 flex-1"
            :value="port.name"
            label="Name of the port"
            @change="
              edit(`Name it ${$event}`, [
                { type: 'port-set', owner: controller.id, port: port.id, set: { name: $event } },
              ])
            "
          />
          <UiButton
            look="plain"
            class="px-1!"
            :label="`Remove ${port.name}`"
            @click="
              edit(`Remove ${port.name}`, [{ type: 'port-remove', owner: controller.id, port: port.id }])
            "
            ><X :size="13"
          /></UiButton>
        </div>
        <div v-if="port.direction !== 'in'" class="mt-1 flex flex-wrap items-center gap-1 pl-9.5 text-xs">
          <span
            v-for="cable in cables"
            :key="cable.id"
            class="border-line bg-raised flex items-center rounded-md border pl-2"
            >{{ cable.name
            }}<UiButton
              look="plain"
              class="px-1!"
              :label="`Take away the cable to ${cable.name}`"
              @click="
                edit(`Take away the cable to ${cable.name}`, [{ type: 'cable-remove', cable: cable.id }])
              "
              ><X :size="12" /></UiButton
          ></span>
          <select
            v-if="offers.length > 0"
            class="bg-raised border-line h-7 max-w-44 rounded-md border px-1"
            :aria-label="`Join ${port.name} to`"
            data-testid="join-port"
            @change="join(port, $event)"
          >
            <option value="">join to …</option>
            <option v-for="end in offers" :key="portKey(end.ref)" :value="portKey(end.ref)">
              {{ nameOf(end) }}
            </option>
          </select>
          <span v-else-if="cables.length === 0" class="text-soft">Nothing listens yet.</span>
        </div>
      </li>
    </ul>
    <div class="mt-1.5 flex gap-1.5">
      <UiButton v-for="direction in DIRECTIONS" :key="direction" @click="add(direction)"
        ><Plus :size="12" />{{ direction }}</UiButton
      >
    </div>
  </section>
</template>
