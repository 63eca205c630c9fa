<script setup lang="ts">
import { ChevronRight, Plus, X } from '@lucide/vue'
import type { Rig } from '#core/rig'
import { freeId } from '#core/rig'

/** Numbers that plans prefer or avoid, kept with the rig. */
const rigs = useRigStore()
const desk = useDeskStore()
const plans = usePlanStore()
const edit = useEdit()

type HouseRule = Rig['houseRules'][number]
const rules = computed<readonly HouseRule[]>(() => rigs.rig?.houseRules ?? [])
const isOpen = ref(false)

function set(label: string, houseRules: HouseRule[]): void {
  if (edit(label, [{ type: 'rig-set', set: { houseRules } }])) void plans.run()
}
const put = (rule: HouseRule, change: Partial<HouseRule>): void =>
  set(
    'A house rule',
    rules.value.map((each) => (each === rule ? { ...each, ...change } : each)),
  )
const add = (): void =>
  set('A house rule', [
    ...rules.value,
    {
      id: freeId('rule', rules.value),
      kind: 'avoid',
      message: 'cc',
      channel: null,
      low: 0,
      high: 13,
      controller: null,
      block: null,
      memo: '',
    },
  ])
const numberOf = (event: Event): number => Number((event.target as HTMLInputElement).value)
const textOf = (event: Event): string => (event.target as HTMLSelectElement).value
const FIELD = 'bg-raised border-line h-6 rounded-md border px-1'
</script>

<template>
  <section>
    <button
      type="button"
      class="text-soft hover:text-ink flex items-center gap-1"
      :aria-expanded="isOpen"
      data-testid="house-rules"
      @click="isOpen = !isOpen"
    >
      <ChevronRight :size="13" :class="isOpen && 'rotate-90'" aria-hidden="true" />
      House rules <span class="tag">{{ rules.length }}</span>
    </button>
    <ul v-if="isOpen" class="mt-1 flex flex-col gap-1">
      <li v-for="rule in rules" :key="rule.id" class="flex flex-wrap items-center gap-1">
        <select
          :class="FIELD"
          aria-label="Prefer or avoid"
          :value="rule.kind"
          @change="put(rule, { kind: textOf($event) as HouseRule['kind'] })"
        >
          <option value="avoid">avoid</option>
          <option value="prefer">prefer</option>
        </select>
        <select
          :class="FIELD"
          aria-label="Kind"
          :value="rule.message"
          @change="put(rule, { message: textOf($event) as HouseRule['message'] })"
        >
          <option value="cc">CC</option>
          <option value="note">notes</option>
          <option value="nrpn">NRPN</option>
        </select>
        <input
          :class="FIELD"
          class="tag w-10"
          aria-label="From"
          :value="rule.low"
          @change="put(rule, { low: numberOf($event) })"
        />
        –
        <input
          :class="FIELD"
          class="tag w-10"
          aria-label="To"
          :value="rule.high"
          @change="put(rule, { high: numberOf($event) })"
        />
        <select
          :class="FIELD"
          class="max-w-32"
          aria-label="For whom"
          :value="rule.controller ?? ''"
          @change="put(rule, { controller: textOf($event) || null, block: null })"
        >
          <option value="">for everyone</option>
          <option v-for="each in desk.controllers" :key="each.id" :value="each.id">
            for {{ each.name }}
          </option>
        </select>
        <UiButton
          look="plain"
          class="h-6! px-1!"
          label="Take this rule out"
          @click="
            set(
              'One house rule less',
              rules.filter((each) => each !== rule),
            )
          "
          ><X :size="13"
        /></UiButton>
        <span v-if="rule.memo" class="text-soft w-full pl-1">{{ rule.memo }}</span>
      </li>
      <li>
        <UiButton look="plain" class="px-1!" @click="add"><Plus :size="13" />Add a rule</UiButton>
      </li>
    </ul>
  </section>
</template>
