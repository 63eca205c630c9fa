<script setup lang="ts">
import type { ChangeGroup, ChangeLine } from '#core/history'

/** What differs at one controller or destination, line by line, each to be brought back. */
const { group } = defineProps<{ group: ChangeGroup }>()
const history = useHistoryStore()
const MOST = 60
const all = ref<ReadonlySet<string>>(new Set())
const sections = computed(() =>
  group.sections.map(({ name, lines }) => {
    const isAll = all.value.has(name)
    return {
      name,
      lines: isAll ? lines : lines.slice(0, MOST),
      more: isAll ? 0 : Math.max(0, lines.length - MOST),
    }
  }),
)
const showAll = (name: string): void => void (all.value = new Set([...all.value, name]))
const back = (line: ChangeLine): void => void history.bringBack(`Bring back ${line.name}`, [line.where])
const backSections = (name: string, of: ChangeGroup['sections']): void =>
  void history.bringBack(
    `Bring back ${name}`,
    of.flatMap(({ lines }) => lines.map(({ where }) => where)),
  )
const backSection = (name: string): void =>
  backSections(
    `${name} of ${group.name}`,
    group.sections.filter((each) => each.name === name),
  )
const backAll = (): void => backSections(group.name, group.sections)
</script>

<template>
  <section class="pb-5" :data-group="group.key">
    <header class="border-line flex items-center gap-2 border-b pb-1">
      <h2 class="font-bold">{{ group.name }}</h2>
      <span class="text-soft text-xs">{{ group.count }} {{ group.count === 1 ? 'change' : 'changes' }}</span>
      <UiButton class="ml-auto" :disabled="!history.canBringBack" @click="backAll"
        >Bring all of it back</UiButton
      >
    </header>
    <div v-for="section in sections" :key="section.name" class="pt-2">
      <div v-if="section.name" class="group flex items-center gap-2">
        <h3 class="text-soft text-xs font-bold">{{ section.name }}</h3>
        <button
          v-if="section.lines.length > 1"
          type="button"
          class="text-soft hover:text-ink text-2xs underline opacity-0 group-hover:opacity-100 focus-visible:opacity-100"
          :disabled="!history.canBringBack"
          @click="backSection(section.name)"
        >
          bring these back
        </button>
      </div>
      <ul>
        <li
          v-for="line in section.lines"
          :key="line.key"
          class="hover:bg-hair grid min-h-7 grid-cols-[14px_minmax(8rem,1.2fr)_minmax(0,1fr)_14px_minmax(0,1fr)_auto] items-center gap-2 rounded px-1 text-sm"
          :data-change="line.kind"
        >
          <ChangeMark :kind="line.kind" />
          <span class="truncate" :title="line.name">{{ line.name }}</span>
          <span class="tag text-soft truncate text-xs" :title="line.was ?? ''">{{ line.was }}</span>
          <span class="text-soft text-xs" aria-hidden="true">{{ line.was || line.is ? '→' : '' }}</span>
          <span class="tag truncate text-xs" :title="line.is ?? ''">{{
            line.is ?? (line.was === null ? '' : line.kind === 'gone' ? 'gone' : '')
          }}</span>
          <UiButton
            look="plain"
            :label="`Bring back ${line.name}`"
            :disabled="!history.canBringBack"
            data-testid="bring-back"
            @click="back(line)"
            >Bring back</UiButton
          >
        </li>
      </ul>
      <UiButton v-if="section.more > 0" look="plain" @click="showAll(section.name)"
        >and {{ section.more }} more</UiButton
      >
    </div>
  </section>
</template>
