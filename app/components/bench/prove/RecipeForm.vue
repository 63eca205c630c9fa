<script setup lang="ts">
import { recipeIn } from '#core/bench/recipes'
import { freeId, type Recipe } from '#core/rig'

/** Writing a recipe: its message as text, and the tables of what the hardware calls things. */
const { recipe } = defineProps<{ recipe: Recipe | null }>()
const emit = defineEmits<{ save: [recipe: Recipe]; leave: [] }>()
const rigs = useRigStore()
const EXAMPLE =
  'F0 7D {device} {slot} [ {layer} {control} {kind} {channel-1} {number} {low} {high} {behaviour} ] {sum from 2} F7'
const name = ref(recipe?.name ?? '')
const text = ref(recipe?.message ?? EXAMPLE)
const kinds = ref(recipe?.kinds ?? 'cc 0, note 1, program 2, pitchBend 3, channelPressure 4')
const behaviours = ref(recipe?.behaviours ?? 'absolute 0, momentary 1, toggle 2, trigger 3, relative 4')
const waitMs = ref(recipe?.waitMs ?? 20)
const request = ref(recipe?.request ?? '')
const model = ref(recipe?.model ?? '')
const models = computed(() => rigs.rig?.models ?? [])

const written = computed<Recipe>(() => ({
  id: recipe?.id ?? freeId('recipe', rigs.rig?.recipes ?? []),
  name: name.value.trim() === '' ? 'Recipe' : name.value.trim(),
  model: model.value === '' ? null : model.value,
  notes: recipe?.notes ?? '',
  message: text.value,
  request: request.value.trim(),
  kinds: kinds.value,
  behaviours: behaviours.value,
  waitMs: Math.min(10_000, Math.max(0, Math.round(waitMs.value) || 0)),
}))
const problems = computed(() => {
  const read = recipeIn(written.value)
  return read.ok ? [] : read.problems
})
const FIELD = 'bg-raised border-line w-full rounded-md border px-2 py-1'
</script>

<template>
  <form
    class="flex flex-col gap-2 pt-2 text-xs"
    data-testid="recipe-form"
    @submit.prevent="problems.length === 0 && emit('save', written)"
  >
    <label
      >Name<input
        v-model="name"
        :class="FIELD"
        maxlength="120"
        placeholder="Recipe"
        data-testid="recipe-name"
    /></label>
    <label
      >Message<textarea
        v-model="text"
        rows="4"
        :class="[FIELD, 'tag']"
        spellcheck="false"
        data-testid="recipe-text"
      />
    </label>
    <p class="text-soft">
      Bytes in hexadecimal digits; places in braces; between [ ] once for each control. A place can have a
      size, as in {number:halves} or {name:8}, and an offset, as in {channel-1}. Checksums: {sum from 2},
      {negated from 2}, {xor from 2}. [packed ] packs eight bits as seven.
    </p>
    <label
      >Asks for it (may stay empty)<input
        v-model="request"
        :class="[FIELD, 'tag']"
        spellcheck="false"
        placeholder="F0 7D {device} 41 {slot} F7"
        data-testid="recipe-request"
    /></label>
    <label class="flex items-center gap-2"
      >For<select
        v-model="model"
        class="bg-raised border-line h-7 min-w-0 flex-1 rounded-md border px-1"
        data-testid="recipe-model"
      >
        <option value="">any controller</option>
        <option v-for="each in models" :key="each.id" :value="each.id">{{ each.name }}</option>
      </select></label
    >
    <label
      >Kinds of message<input
        v-model="kinds"
        :class="[FIELD, 'tag']"
        spellcheck="false"
        data-testid="recipe-kinds"
    /></label>
    <label>Behaviours<input v-model="behaviours" :class="[FIELD, 'tag']" spellcheck="false" /></label>
    <label class="flex items-center gap-2">Wait after each message<NumberInput v-model="waitMs" /> ms</label>
    <ul v-if="problems.length > 0" class="text-conflict" role="alert" data-testid="recipe-problems">
      <li v-for="problem in problems" :key="problem">{{ problem }}</li>
    </ul>
    <div class="flex gap-1">
      <UiButton type="submit" look="strong" :disabled="problems.length > 0" data-testid="recipe-done"
        >Keep the recipe</UiButton
      >
      <UiButton @click="emit('leave')">Leave it</UiButton>
    </div>
  </form>
</template>
