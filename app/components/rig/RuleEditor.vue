<script setup lang="ts">
import { CABLE_KINDS, MESSAGE_KIND_NAME, type CableKind, type CableRule } from '#core/rig'

/** One rule of a cable as fields. A field left empty means any, or as it was. */
const { rule } = defineProps<{ rule: CableRule }>()
const emit = defineEmits<{ change: [rule: CableRule] }>()

const DOES: ReadonlyArray<{ kind: CableRule['kind']; name: string }> = [
  { kind: 'stop', name: 'stops' },
  { kind: 'pass', name: 'lets pass' },
  { kind: 'rewrite', name: 'rewrites' },
]
const AS_IT_IS = { kind: null, channel: null, number: null, range: null }

function setKind(kind: string): void {
  const { match } = rule
  emit(
    'change',
    kind === 'rewrite' ? { kind, match, to: AS_IT_IS } : { kind: kind === 'pass' ? kind : 'stop', match },
  )
}
const setMatch = (change: Partial<CableRule['match']>): void =>
  emit('change', { ...rule, match: { ...rule.match, ...change } })

type To = Extract<CableRule, { kind: 'rewrite' }>['to']
const to = computed(() => (rule.kind === 'rewrite' ? rule.to : null))
function setTo(change: Partial<To>): void {
  if (rule.kind === 'rewrite') emit('change', { ...rule, to: { ...rule.to, ...change } })
}

/** An empty field is none; anything that is no whole number is left for the edit to refuse. */
const numberFrom = (event: Event): number | null => {
  const text = (event.target as HTMLInputElement).value.trim()
  return text === '' ? null : Number(text)
}
const textFrom = (event: Event): string => (event.target as HTMLSelectElement).value
const FIELD = 'bg-raised border-line h-7 rounded-md border px-1.5'
</script>

<template>
  <div
    class="grid grid-cols-[max-content_1fr] items-center gap-x-3 gap-y-1.5 text-xs"
    data-testid="rule-editor"
  >
    <label for="rule-does" class="text-soft">This rule</label>
    <select id="rule-does" :class="FIELD" :value="rule.kind" @change="setKind(textFrom($event))">
      <option v-for="each in DOES" :key="each.kind" :value="each.kind">{{ each.name }}</option>
    </select>
    <label for="rule-kind" class="text-soft">What</label>
    <select
      id="rule-kind"
      :class="FIELD"
      :value="rule.match.kinds[0] ?? ''"
      @change="setMatch({ kinds: textFrom($event) === '' ? [] : [textFrom($event) as CableKind] })"
    >
      <option value="">everything</option>
      <option v-for="kind in CABLE_KINDS" :key="kind" :value="kind">{{ MESSAGE_KIND_NAME[kind] }}</option>
    </select>
    <span class="text-soft">Numbers</span>
    <span class="flex items-center gap-1.5">
      <input
        :class="FIELD"
        class="tag w-16"
        aria-label="Lowest number; empty for any"
        placeholder="any"
        data-testid="rule-low"
        :value="rule.match.low ?? ''"
        @change="setMatch({ low: numberFrom($event) })"
      />
      to
      <input
        :class="FIELD"
        class="tag w-16"
        aria-label="Highest number; empty for any"
        placeholder="any"
        data-testid="rule-high"
        :value="rule.match.high ?? ''"
        @change="setMatch({ high: numberFrom($event) })"
      />
    </span>
    <span class="text-soft self-start pt-1">Channels</span>
    <ChannelChips :channels="rule.match.channels" @change="setMatch({ channels: $event })">
      <span v-if="rule.match.channels.length === 0" class="text-soft self-center pl-1">any</span>
    </ChannelChips>
    <template v-if="to">
      <label for="rule-to" class="text-soft">becomes</label>
      <select
        id="rule-to"
        :class="FIELD"
        :value="to.kind ?? ''"
        @change="setTo({ kind: textFrom($event) === '' ? null : (textFrom($event) as CableKind) })"
      >
        <option value="">the same kind</option>
        <option v-for="kind in CABLE_KINDS" :key="kind" :value="kind">{{ MESSAGE_KIND_NAME[kind] }}</option>
      </select>
      <label for="rule-number" class="text-soft">number</label>
      <input
        id="rule-number"
        :class="FIELD"
        class="tag w-16"
        placeholder="as it is"
        :value="to.number ?? ''"
        @change="setTo({ number: numberFrom($event) })"
      />
      <label for="rule-channel" class="text-soft">channel</label>
      <select
        id="rule-channel"
        :class="FIELD"
        :value="to.channel ?? ''"
        @change="setTo({ channel: textFrom($event) === '' ? null : Number(textFrom($event)) })"
      >
        <option value="">as it is</option>
        <option v-for="channel in 16" :key="channel" :value="channel">{{ channel }}</option>
      </select>
      <span class="text-soft">values</span>
      <span class="flex items-center gap-1.5">
        <input
          :class="FIELD"
          class="tag w-14"
          aria-label="Lowest value"
          placeholder="as it is"
          :value="to.range?.low ?? ''"
          @change="
            setTo({
              range:
                numberFrom($event) === null
                  ? null
                  : { low: numberFrom($event) ?? 0, high: to.range?.high ?? 127 },
            })
          "
        />
        to
        <input
          :class="FIELD"
          class="tag w-14"
          aria-label="Highest value"
          placeholder="as it is"
          :value="to.range?.high ?? ''"
          @change="
            setTo({
              range:
                numberFrom($event) === null
                  ? null
                  : { low: to.range?.low ?? 0, high: numberFrom($event) ?? 127 },
            })
          "
        />
      </span>
    </template>
  </div>
</template>
