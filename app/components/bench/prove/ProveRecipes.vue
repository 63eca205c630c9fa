<script setup lang="ts">
import { hexOf } from '#core/midi'
import { modelOf, type Recipe } from '#core/rig'

/** Recipes: how real hardware takes its template, tried on the template that is shown. */
const recipes = useRecipesStore()
const rigs = useRigStore()
const edit = useEdit()
const isWriting = ref(false)
const dialog = useSyxFile((file) => void recipes.read(file))

const options = computed(() => recipes.recipes.map(({ id, name }) => ({ value: id, label: name })))
const made = computed(() => (recipes.chosen ? recipes.written(recipes.chosen) : null))
const first = computed(() => (made.value?.ok ? (made.value.messages[0] ?? []) : []))
const MOST_BYTES = 96
const bytes = computed(() =>
  made.value?.ok ? made.value.messages.reduce((sum, { length }) => sum + length, 0) : 0,
)
const slotCount = computed(() =>
  rigs.rig && recipes.controller ? Math.max(1, modelOf(rigs.rig, recipes.controller).abilities.slots) : 1,
)
function saved(recipe: Recipe): void {
  if (edit(`Recipe “${recipe.name}”`, [{ type: 'recipe-set', recipe }])) {
    recipes.chosenId = recipe.id
    isWriting.value = false
  }
}
function forget(): void {
  if (recipes.chosen)
    edit(`Forgot recipe “${recipes.chosen.name}”`, [{ type: 'recipe-remove', recipe: recipes.chosen.id }])
}
function save(): void {
  if (!made.value?.ok || !recipes.controller) return
  const name = `${recipes.controller.name} ${recipes.template?.name ?? ''}`
  saveBlob(
    fileName(name, 'syx'),
    new Blob([new Uint8Array(made.value.messages.flat())], { type: 'application/octet-stream' }),
  )
}
const readEdits = computed(() => (recipes.file ? recipes.edits() : []))
function takeOver(): void {
  const count = readEdits.value.length
  if (recipes.file && edit(`Read ${count} from ${recipes.file.name}`, readEdits.value)) recipes.file = null
}
</script>

<template>
  <div data-testid="recipes">
    <p v-if="recipes.recipes.length === 0 && !isWriting" class="text-soft">
      Real hardware takes its template by SysEx messages of its own. Write them down once from its manual, and
      its templates can be sent, kept as .syx, and read back.
    </p>
    <div v-if="!isWriting" class="flex flex-wrap items-center gap-1.5 pt-1">
      <UiSelect
        v-if="recipes.recipes.length > 1"
        label="Recipe"
        :model-value="recipes.chosen?.id ?? ''"
        :options="options"
        @update:model-value="recipes.chosenId = $event"
      />
      <span v-else-if="recipes.chosen" class="font-bold">{{ recipes.chosen.name }}</span>
      <UiButton
        v-if="recipes.chosen"
        :disabled="!rigs.canEdit"
        data-testid="recipe-change"
        @click="isWriting = true"
        >Change</UiButton
      >
      <UiButton v-if="recipes.chosen" :disabled="!rigs.canEdit" data-testid="recipe-forget" @click="forget"
        >Forget</UiButton
      >
      <UiButton
        :look="recipes.chosen ? 'quiet' : 'strong'"
        :disabled="!rigs.canEdit"
        data-testid="recipe-new"
        @click="((recipes.chosenId = ''), (isWriting = true))"
        >Write a recipe</UiButton
      >
    </div>
    <RecipeForm
      v-if="isWriting"
      :recipe="recipes.chosenId === '' ? null : recipes.chosen"
      @save="saved"
      @leave="isWriting = false"
    />
    <template v-else-if="recipes.chosen && made">
      <section class="pt-3" aria-label="Template to bytes">
        <h3 class="font-bold">{{ recipes.template?.name }} as bytes</h3>
        <p v-if="!made.ok" class="text-conflict" role="alert" data-testid="recipe-trouble">{{ made.why }}</p>
        <template v-else>
          <p class="text-soft text-xs" data-testid="recipe-size">
            {{ made.messages.length }} {{ made.messages.length === 1 ? 'message' : 'messages' }},
            {{ bytes.toLocaleString('en') }} bytes. The first:
          </p>
          <p
            class="tag border-line mt-1 rounded-md border p-2 text-xs break-words"
            data-testid="recipe-bytes"
          >
            {{ hexOf(first.slice(0, MOST_BYTES)) }}<template v-if="first.length > MOST_BYTES"> …</template>
          </p>
          <div class="flex flex-wrap items-center gap-1.5 pt-2">
            <label class="flex items-center gap-1.5 text-xs"
              >Slot
              <input
                v-model.number="recipes.slot"
                type="number"
                min="1"
                :max="slotCount"
                class="bg-raised border-line tag h-7 w-14 rounded-md border px-1.5"
            /></label>
            <UiButton data-testid="recipe-save" @click="save">Keep as .syx</UiButton>
            <UiButton
              v-if="recipes.outlet"
              :disabled="recipes.isSending"
              @click="recipes.send(recipes.chosen)"
              >{{ recipes.isSending ? 'Sending…' : `Send to ${recipes.controller?.name}` }}</UiButton
            >
          </div>
        </template>
      </section>
      <section class="pt-3" aria-label="Bytes to template">
        <h3 class="font-bold">Read back</h3>
        <div class="flex flex-wrap gap-1.5 pt-1">
          <UiButton data-testid="recipe-read" @click="dialog">Read a .syx file…</UiButton>
          <UiButton
            v-if="recipes.outlet && recipes.chosen.request !== ''"
            :disabled="recipes.isFetching"
            data-testid="recipe-fetch"
            @click="recipes.fetchBack(recipes.chosen)"
            >{{
              recipes.isFetching ? 'Asking…' : `Fetch slot ${recipes.slot} from ${recipes.controller?.name}`
            }}</UiButton
          >
        </div>
        <p v-if="recipes.failure" class="text-conflict pt-1" role="alert" data-testid="recipe-failure">
          {{ recipes.failure }} Nothing was changed.
        </p>
        <template v-if="recipes.file">
          <p class="pt-1" data-testid="recipe-found">
            {{ recipes.file.name }}: {{ recipes.file.rows.length }} assignments in {{ recipes.file.messages }}
            {{ recipes.file.messages === 1 ? 'message' : 'messages'
            }}<template v-if="recipes.file.where.slot !== undefined"
              >, for slot {{ recipes.file.where.slot }}</template
            >.
            {{
              readEdits.length === 0
                ? 'They are the same as in the template.'
                : `${readEdits.length} differ from the template.`
            }}
          </p>
          <UiButton
            v-if="readEdits.length > 0"
            look="strong"
            class="mt-1"
            :disabled="!rigs.canEdit"
            data-testid="recipe-take"
            @click="takeOver"
            >Take {{ readEdits.length }} over into the template</UiButton
          >
        </template>
      </section>
    </template>
  </div>
</template>
