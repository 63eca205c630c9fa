<script setup lang="ts">
import { ArrowUp, Copy, Plus, Trash2, X } from '@lucide/vue'
import type { RigEdit, Template } from '#core/rig'
import { freeId } from '#core/rig'

const desk = useDeskStore()
const edit = useEdit()
const takeAway = useRemoval()
const templates = computed(() => desk.controller?.templates ?? [])

const change = (label: string, edits: readonly RigEdit[]): boolean => edit(label, edits)
const at = (template: Template) => ({ controller: desk.controller?.id ?? '', template: template.id })

function add(copy: Template | null): void {
  if (!desk.controller) return
  const id = freeId('template', templates.value)
  const name = copy ? `${copy.name} copy` : `Template ${templates.value.length + 1}`
  const template: Template = copy ? { ...copy, id, name } : { id, name, base: {}, stacks: [] }
  if (change(`Add ${name}`, [{ type: 'template-add', controller: desk.controller.id, template }]))
    desk.chooseTemplate(id)
}
</script>

<template>
  <div class="px-5 py-4" data-testid="templates-panel">
    <header class="flex items-start justify-between">
      <div>
        <h2 class="text-lg font-bold">Templates of {{ desk.controller?.name }}</h2>
        <p class="text-soft text-xs">
          A template is all that a controller sends. A stack is a set of controls that change together; its
          layers are what they change between.
        </p>
      </div>
      <UiButton look="plain" label="Close the templates" @click="desk.panel = 'selection'"
        ><X :size="15"
      /></UiButton>
    </header>
    <ul class="mt-2">
      <li v-for="(template, index) in templates" :key="template.id" class="flex items-center gap-1">
        <input
          :id="`template-${template.id}`"
          type="radio"
          class="accent-ink"
          name="template"
          :checked="template === desk.template"
          :aria-label="`Show ${template.name}`"
          @change="desk.chooseTemplate(template.id)"
        />
        <InlineName
          class="flex-1"
          :value="template.name"
          label="Name of the template"
          @change="change(`Name it ${$event}`, [{ type: 'template-set', ...at(template), name: $event }])"
        />
        <span v-if="index === 0 && templates.length > 1" class="text-soft text-xs">at power-up</span>
        <UiButton
          v-if="templates.length > 1"
          look="plain"
          class="px-1.5!"
          :label="`Move ${template.name} up`"
          :disabled="index === 0"
          @click="
            change(`Move ${template.name}`, [{ type: 'template-move', ...at(template), to: index - 1 }])
          "
          ><ArrowUp :size="13"
        /></UiButton>
        <UiButton look="plain" class="px-1.5!" :label="`Duplicate ${template.name}`" @click="add(template)"
          ><Copy :size="13"
        /></UiButton>
        <UiButton
          look="plain"
          class="px-1.5!"
          :label="`Delete ${template.name}`"
          :disabled="templates.length === 1"
          @click="takeAway(`Delete ${template.name}`, [{ type: 'template-remove', ...at(template) }])"
          ><Trash2 :size="13"
        /></UiButton>
      </li>
    </ul>
    <UiButton class="mt-1" data-testid="add-template" @click="add(null)"
      ><Plus :size="13" />Template</UiButton
    >
    <StackChoices v-if="templates.length > 1" class="mt-2" />
    <template v-if="desk.template">
      <StackEditor v-for="stack in desk.template.stacks" :key="stack.id" :stack="stack" class="mt-4" />
      <NewStack class="mt-4" />
    </template>
  </div>
</template>
