<script setup lang="ts">
import { linesBeside } from '#core/sheets/document'
import { swatchSvg } from '#core/sheets/swatch'
import type { Cell, Row, Section } from '#core/sheets'

/** The table of a section, a part of it at a time where it is long. */
const { section, index } = defineProps<{ section: Section; index: number }>()
const FIRST_LINES = 200
const MORE_LINES = 1000

const sheets = useSheetsStore()
const rigs = useRigStore()
const edit = useEdit()
const leadTo = useLeads()

const columns = computed(() => section.table?.columns ?? [])
/** Lines that the drawing does not say already, each with its place in the table. */
const lines = computed(() => {
  const beside = new Set(linesBeside(section))
  return (section.table?.rows ?? []).flatMap((row, at) => {
    const isSought = sheets.sought?.section === index && sheets.sought.line === at
    return beside.has(row) || isSought ? [{ row, at, isSought }] : []
  })
})
const shownCount = ref(FIRST_LINES)
const soughtAt = computed(() => lines.value.findIndex(({ isSought }) => isSought))
const shown = computed(() => lines.value.slice(0, Math.max(shownCount.value, soughtAt.value + 1)))
const left = computed(() => lines.value.length - shown.value.length)

const swatchOf = ({ swatch, pattern }: Cell): string =>
  `data:image/svg+xml;charset=utf-8,${encodeURIComponent(swatchSvg(swatch ?? '#ffffff', pattern))}`

function tick({ step }: Row, done: boolean): void {
  if (step !== undefined)
    edit(done ? 'Tick a step' : 'Take back a tick', [{ type: 'step-set', step, set: { done } }])
}
const isWords = (row: Row, position: number): boolean =>
  row.step !== undefined && position === row.cells.length - 1
const memoOf = ({ step }: Row): string => rigs.rig?.checklist.find((each) => each.step === step)?.memo ?? ''
function write(row: Row, { target }: Event): void {
  const { step } = row
  if (step === undefined || !(target instanceof HTMLInputElement) || target.value === memoOf(row)) return
  if (!edit('Write to a step', [{ type: 'step-set', step, set: { memo: target.value } }]))
    target.value = memoOf(row)
}
const tickName = ({ cells }: Row): string => cells[2]?.text ?? 'this step'
</script>

<template>
  <table v-if="shown.length > 0" class="mt-1 w-full border-collapse">
    <thead>
      <tr class="border-ink border-b">
        <th
          v-for="(column, position) in columns"
          :key="position"
          scope="col"
          class="py-1 pr-4 align-bottom font-medium"
          :class="column.align === 'right' ? 'w-px text-right whitespace-nowrap' : 'text-left'"
        >
          {{ column.title }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="{ row, at, isSought } in shown"
        :key="at"
        class="border-hair border-b"
        :class="isSought && 'bg-marker/40'"
        :data-line="`${index}-${at}`"
        tabindex="-1"
      >
        <td
          v-for="(cell, position) in row.cells"
          :key="position"
          dir="auto"
          class="py-1 pr-4 align-baseline wrap-anywhere"
          :class="[cell.mono && 'tag', columns[position]?.align === 'right' && 'text-right']"
        >
          <img v-if="cell.swatch" :src="swatchOf(cell)" alt="" class="mr-1.5 inline size-3 align-[-1px]" />
          <label v-if="cell.box && row.step" class="flex items-center gap-1.5">
            <input
              type="checkbox"
              class="accent-ink relative top-0.75 size-4"
              :checked="cell.box === 'ticked'"
              :aria-label="tickName(row)"
              data-testid="tick"
              @change="tick(row, ($event.target as HTMLInputElement).checked)"
            /><span class="sr-only">{{ cell.text }}</span>
          </label>
          <input
            v-else-if="isWords(row, position)"
            class="hover:border-line focus:border-ink h-6 w-full min-w-40 rounded border border-transparent bg-transparent px-1"
            :value="cell.text"
            maxlength="4000"
            placeholder="add a word"
            :aria-label="`Your words to: ${tickName(row)}`"
            data-testid="step-words"
            @change="write(row, $event)"
            @keydown.enter="($event.target as HTMLInputElement).blur()"
          />
          <button
            v-else-if="position === 0 && row.lead && !row.step"
            type="button"
            class="hover:decoration-ink decoration-faint text-left underline decoration-dotted underline-offset-2"
            title="Show it"
            @click="leadTo(row.lead)"
          >
            {{ cell.text }}
          </button>
          <template v-else>{{ cell.text }}</template>
        </td>
      </tr>
    </tbody>
  </table>
  <UiButton v-if="left > 0" class="mt-2" data-testid="more-lines" @click="shownCount += MORE_LINES"
    >{{ left }} more lines</UiButton
  >
</template>
