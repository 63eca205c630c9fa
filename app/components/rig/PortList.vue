<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { leadsOut, portKey, type PortDirection } from '#core/rig'
import { freeId } from '#core/rig'

/** The sockets of a device, and where the cables from its outs go. */
const { owner, directions } = defineProps<{
  owner: string
  /** The directions that a new port of it can have. */
  directions: ReadonlyArray<'in' | 'out' | 'thru'>
}>()
const edit = useEdit()
const picture = usePictureStore()
const { ends, cablesFrom, offersFor, joinPorts } = useCabling()

const WORDS: Readonly<Record<PortDirection, string>> = { in: 'in', out: 'out', thru: 'thru', both: 'both' }
const rows = computed(() =>
  ends.value
    .filter(({ ref: at }) => at.owner === owner)
    .map((end) => ({
      ...end,
      isOut: leadsOut(end.direction),
      cables: cablesFrom(end.ref),
      offers: leadsOut(end.direction) ? offersFor(end.ref) : [],
    })),
)

function add(direction: 'in' | 'out' | 'thru'): void {
  const taken = rows.value.map(({ ref: at }) => ({ id: at.port }))
  const name = directions.length === 1 ? `Port ${taken.length + 1}` : `Port ${direction}`
  edit(`Add ${name}`, [{ type: 'port-add', owner, port: { id: freeId(direction, taken), name, direction } }])
}

function join(row: (typeof rows.value)[number], event: Event): void {
  const select = event.target as HTMLSelectElement
  const end = row.offers.find(({ ref: at }) => portKey(at) === select.value)
  select.value = ''
  if (end) joinPorts(row.ref, end.ref)
}
</script>

<template>
  <section data-testid="controller-ports">
    <h3 class="font-bold">Ports and cables</h3>
    <p v-if="rows.length === 0" class="text-soft text-xs">
      Without a port nothing arrives and nothing leaves. Add one, then join it.
    </p>
    <ul>
      <li v-for="row in rows" :key="row.ref.port" class="mt-1">
        <div class="flex items-center gap-1.5">
          <span class="text-soft w-8 shrink-0 text-xs">{{ WORDS[row.direction] }}</span>
          <InlineName
            class="border-line! bg-raised min-w-0 flex-1"
            :value="row.name"
            label="Name of the port"
            @change="
              edit(`Name it ${$event}`, [
                { type: 'port-set', owner, port: row.ref.port, set: { name: $event } },
              ])
            "
          />
          <UiButton
            look="plain"
            class="px-1!"
            :label="`Remove ${row.name}`"
            @click="edit(`Remove ${row.name}`, [{ type: 'port-remove', owner, port: row.ref.port }])"
            ><X :size="13"
          /></UiButton>
        </div>
        <div v-if="row.isOut" class="mt-1 flex flex-wrap items-center gap-1 pl-9.5 text-xs">
          <span
            v-for="cable in row.cables"
            :key="cable.id"
            class="border-line bg-raised flex items-center rounded-md border pl-2"
          >
            <button
              type="button"
              class="underline decoration-dotted underline-offset-2"
              :title="`What the cable to ${cable.name} lets pass`"
              @click="(picture.select({ kind: 'cable', id: cable.id }), navigateTo('/rig'))"
            >
              {{ cable.name }}</button><UiButton
              look="plain"
              class="px-1!"
              :label="`Take away the cable to ${cable.name}`"
              @click="
                edit(`Take away the cable to ${cable.name}`, [{ type: 'cable-remove', cable: cable.id }])
              "
              ><X :size="12"
            /></UiButton>
          </span>
          <select
            v-if="row.offers.length > 0"
            class="bg-raised border-line h-7 max-w-44 rounded-md border px-1"
            :aria-label="`Join ${row.name} to`"
            data-testid="join-port"
            @change="join(row, $event)"
          >
            <option value="">join to …</option>
            <option v-for="end in row.offers" :key="portKey(end.ref)" :value="portKey(end.ref)">
              {{ endName(end) }}
            </option>
          </select>
          <span v-else-if="row.cables.length === 0" class="text-soft">Nothing listens yet.</span>
        </div>
      </li>
    </ul>
    <div class="mt-1.5 flex gap-1.5">
      <UiButton v-for="direction in directions" :key="direction" @click="add(direction)"
        ><Plus :size="12" />{{ directions.length === 1 ? 'port' : direction }}</UiButton
      >
    </div>
  </section>
</template>
