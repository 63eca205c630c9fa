<script setup lang="ts">
import { Plus, Trash2, X } from '@lucide/vue'
import { ruleWords, type Cable, type CableRule } from '#core/rig'

/** A cable: its two ends, its rules in order, and what happens to the rest. */
const { cable } = defineProps<{ cable: Cable }>()
const edit = useEdit()
const { endAt } = useCabling()
const open = ref<number | null>(null)
watch(
  () => cable.id,
  () => (open.value = null),
)

const from = computed(() => endAt(cable.from))
const to = computed(() => endAt(cable.to))

const set = (label: string, rules: readonly CableRule[]): boolean =>
  edit(label, [{ type: 'cable-set', cable: cable.id, set: { rules: [...rules] } }])
const put = (index: number, rule: CableRule): boolean => set(ruleWords(rule), cable.rules.with(index, rule))

function add(): void {
  const rule: CableRule = { kind: 'stop', match: { kinds: ['cc'], channels: [], low: null, high: null } }
  // It may be held until the player has seen what it makes unheard: it opens when it is there.
  open.value = cable.rules.length
  set('Add a rule', [...cable.rules, rule])
}
function move(index: number, to: number): void {
  const rule = cable.rules[index]
  if (!rule) return
  const rest = cable.rules.toSpliced(index, 1)
  if (set('Move a rule', rest.toSpliced(to, 0, rule))) open.value = null
}
</script>

<template>
  <div class="px-5 py-4" data-testid="cable-panel">
    <p class="text-soft text-xs font-medium">Cable</p>
    <h2 class="text-lg font-bold">{{ from ? endName(from) : '' }}</h2>
    <p class="text-base">to {{ to ? endName(to) : '' }}</p>
    <h3 class="mt-3 font-bold">What passes</h3>
    <p class="text-soft text-xs">Rules are tried from the top; the first that fits decides.</p>
    <ol class="mt-1.5">
      <li v-for="(rule, index) in cable.rules" :key="index" class="border-line border-t py-1.5">
        <div class="flex items-start gap-0.5">
          <button
            type="button"
            class="min-w-0 flex-1 text-left font-medium"
            :aria-expanded="open === index"
            data-testid="rule"
            @click="open = open === index ? null : index"
          >
            {{ ruleWords(rule) }}
          </button>
          <MoveButtons :index="index" :count="cable.rules.length" @move="move(index, $event)" />
          <UiButton
            look="plain"
            class="px-1!"
            label="Take the rule away"
            @click="set('Take a rule away', cable.rules.toSpliced(index, 1))"
            ><X :size="13"
          /></UiButton>
        </div>
        <RuleEditor v-if="open === index" :rule="rule" class="mt-1.5" @change="put(index, $event)" />
      </li>
    </ol>
    <UiButton data-testid="add-rule" @click="add"><Plus :size="13" />Rule</UiButton>
    <p class="border-line mt-2 flex items-center gap-1.5 border-t pt-2.5">
      <span>{{ cable.rules.length > 0 ? 'What fits no rule' : 'Everything' }}</span>
      <ChipToggle
        :is-on="cable.otherwise === 'pass'"
        @click="
          edit('Let the rest pass', [{ type: 'cable-set', cable: cable.id, set: { otherwise: 'pass' } }])
        "
        >passes</ChipToggle
      >
      <ChipToggle
        :is-on="cable.otherwise === 'stop'"
        @click="edit('Stop the rest', [{ type: 'cable-set', cable: cable.id, set: { otherwise: 'stop' } }])"
        >stops</ChipToggle
      >
    </p>
    <UiButton class="mt-4" @click="edit('Take a cable away', [{ type: 'cable-remove', cable: cable.id }])"
      ><Trash2 :size="13" />Take the cable away</UiButton
    >
  </div>
</template>
