<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { MESSAGE_KIND_NAME, type Claim, type Destination } from '#core/rig'
import { freeId } from '#core/rig'

/** Addresses that a destination keeps for itself, and what for. */
const { destination } = defineProps<{ destination: Destination }>()
const edit = useEdit()

const KINDS: ReadonlyArray<Claim['kind']> = [
  'cc',
  'note',
  'program',
  'polyPressure',
  'pitchBend',
  'channelPressure',
]
const set = (label: string, claims: Claim[]): boolean =>
  edit(label, [{ type: 'destination-set', destination: destination.id, set: { claims } }])
const put = (claim: Claim, change: Partial<Claim>): boolean =>
  set(
    'What it keeps',
    destination.claims.map((each) => (each === claim ? { ...each, ...change } : each)),
  )
function add(): void {
  const claim: Claim = {
    id: freeId('claim', destination.claims),
    function: 'its own use',
    kind: 'cc',
    channel: null,
    low: 110,
    high: 117,
    serves: [],
  }
  set('Keep addresses', [...destination.claims, claim])
}
const numberOf = (event: Event): number => Number((event.target as HTMLInputElement).value)
const FIELD = 'bg-raised border-line h-7 rounded-md border px-1'
</script>

<template>
  <section>
    <h3 class="font-bold">Keeps for itself</h3>
    <ul>
      <li v-for="claim in destination.claims" :key="claim.id" class="border-line border-t py-1.5 text-xs">
        <div class="flex items-center gap-1">
          <InlineName
            class="flex-1"
            :value="claim.function"
            label="What it keeps them for"
            @change="put(claim, { function: $event })"
          />
          <UiButton
            look="plain"
            class="px-1!"
            :label="`No longer keep them for ${claim.function}`"
            @click="
              set(
                'Keep them no longer',
                destination.claims.filter((each) => each !== claim),
              )
            "
            ><X :size="13"
          /></UiButton>
        </div>
        <div class="flex flex-wrap items-center gap-1 pl-1.5">
          <select
            :class="FIELD"
            class="w-22"
            aria-label="Kind"
            :value="claim.kind"
            @change="put(claim, { kind: ($event.target as HTMLSelectElement).value as Claim['kind'] })"
          >
            <option v-for="kind in KINDS" :key="kind" :value="kind">{{ MESSAGE_KIND_NAME[kind] }}</option>
          </select>
          <input
            :class="FIELD"
            class="tag w-11"
            aria-label="From"
            :value="claim.low"
            @change="put(claim, { low: numberOf($event) })"
          />
          –
          <input
            :class="FIELD"
            class="tag w-11"
            aria-label="To"
            :value="claim.high"
            @change="put(claim, { high: numberOf($event) })"
          />
          on
          <select
            :class="FIELD"
            class="w-28"
            aria-label="Channel"
            :value="claim.channel ?? ''"
            @change="
              put(claim, {
                channel:
                  ($event.target as HTMLSelectElement).value === ''
                    ? null
                    : Number(($event.target as HTMLSelectElement).value),
              })
            "
          >
            <option value="">any channel</option>
            <option v-for="channel in 16" :key="channel" :value="channel">channel {{ channel }}</option>
          </select>
        </div>
      </li>
    </ul>
    <UiButton class="mt-1" data-testid="add-claim" @click="add"><Plus :size="12" />Keep addresses</UiButton>
  </section>
</template>
