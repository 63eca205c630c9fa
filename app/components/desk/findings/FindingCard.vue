<script setup lang="ts">
import { Archive, Cable } from '@lucide/vue'
import type { Finding, Fix } from '#core/conflicts'
import { factsOf } from '#core/conflicts/facts'
import { editLine } from '#core/conflicts/preview'

const { finding, canGo = false } = defineProps<{
  finding: Finding
  /** Offer to go to where it is. */
  canGo?: boolean
}>()
const emit = defineEmits<{ go: [] }>()
const analysis = useAnalysisStore()
const desk = useDeskStore()
const rigs = useRigStore()
const edit = useEdit()
const isSettingAside = ref(false)
const reason = ref('')
function setAside(): void {
  const { id } = finding
  const aside = { finding: id, facts: factsOf(finding), reason: reason.value }
  if (edit('Set a finding aside', [{ type: 'aside-add', aside }])) isSettingAside.value = false
}
const fixes = shallowRef<readonly Fix[]>([])
/** Cures come from the worker: until then their row is kept free, so that what stands below stays there. */
const isLooking = ref(false)

watch(
  [() => finding.id, () => analysis.report?.revision],
  async ([id, revision]) => {
    const isLatest = (): boolean => id === finding.id && revision === analysis.report?.revision
    isLooking.value = true
    try {
      const offered = await analysis.fixesOf(id)
      if (isLatest()) fixes.value = offered
    } finally {
      if (isLatest()) isLooking.value = false
    }
  },
  { immediate: true },
)
/** The first cable, port or instrument that it speaks of. */
const thing = computed(() => finding.things[0] ?? null)
const showThing = useShowThing()
/** What the cure under the pointer, or with the focus, would change. */
const looked = shallowRef<Fix | null>(null)
/** A finger cannot hover: its first tap shows what a cure would change, the second makes it. */
function press(fix: Fix, event: MouseEvent): void {
  const isFinger = event instanceof PointerEvent && event.pointerType === 'touch'
  if (isFinger && tapped.value !== fix.id) {
    tapped.value = fix.id
    looked.value = fix
  } else if (edit(fix.label, fix.edits)) tapped.value = null
}
const tapped = ref<string | null>(null)
const MOST_LINES = 4
const preview = computed(() => {
  const { rig } = rigs
  const lines = rig && looked.value ? looked.value.edits.flatMap((each) => editLine(rig, each) ?? []) : []
  const more = lines.length - MOST_LINES
  return more > 0 ? [...lines.slice(0, MOST_LINES), `and ${more} more`] : lines
})
const vFocus = { mounted: (element: HTMLElement) => element.focus() }
</script>

<template>
  <article
    class="rounded-md border p-2.5"
    :class="[
      finding.severity === 'error' ? 'bg-conflict-soft border-conflict' : 'bg-advice-soft border-advice',
      canGo && desk.findingId === finding.id && 'ring-ink ring-2',
    ]"
    :data-visited="canGo && desk.findingId === finding.id"
    :data-finding="finding.id"
    :data-rule="finding.rule"
    :aria-busy="isLooking"
  >
    <div class="flex gap-2">
      <SeverityMark :severity="finding.severity" />
      <p class="min-w-0 flex-1">
        <span class="sr-only">{{ finding.severity }}: </span>
        <button v-if="canGo" type="button" class="text-left hover:underline" @click="emit('go')">
          {{ finding.message }}
        </button>
        <template v-else>{{ finding.message }}</template>
      </p>
      <UiButton
        v-if="rigs.canEdit && !isSettingAside"
        look="plain"
        class="-mt-1 -mr-1 px-1!"
        label="Set aside, with a reason"
        data-testid="set-aside"
        @click="isSettingAside = true"
        ><Archive :size="14"
      /></UiButton>
    </div>
    <div
      v-if="fixes.length > 0 || isLooking || isSettingAside || thing"
      class="mt-2 flex min-h-7 flex-wrap items-center gap-1.5 pl-5"
    >
      <span v-if="isLooking && fixes.length === 0" class="late text-soft text-xs">Looking for cures…</span>
      <UiButton
        v-for="(fix, index) in fixes"
        :key="fix.id"
        :look="index === 0 && fix.kind !== 'share' ? 'strong' : 'quiet'"
        :disabled="!rigs.canEdit || !analysis.isCurrent"
        class="h-auto! min-h-7 max-w-full text-left whitespace-normal!"
        :data-fix="fix.kind"
        @click="press(fix, $event)"
        @mouseenter="looked = fix"
        @mouseleave="looked = null"
        @focus="looked = fix"
        @blur="looked = tapped = null"
        >{{ tapped === fix.id ? `Tap again: ${fix.label}` : fix.label }}</UiButton
      >
      <UiButton v-if="thing" look="plain" data-testid="show-in-rig" @click="showThing(finding)"
        ><Cable :size="13" />Show in Rig</UiButton
      >
      <ul v-if="preview.length > 0" class="tag w-full text-xs" data-testid="fix-preview">
        <li v-for="line in preview" :key="line">{{ line }}</li>
      </ul>
      <form v-if="isSettingAside" class="flex w-full gap-1.5" @submit.prevent="setAside">
        <input
          v-model="reason"
          v-focus
          class="bg-raised border-line h-7 min-w-0 flex-1 rounded-md border px-2"
          placeholder="Why it may stay"
          aria-label="Why it may stay"
          maxlength="400"
          data-testid="aside-reason"
          @keydown.esc.stop="isSettingAside = false"
        />
        <UiButton type="submit" :disabled="reason.trim() === ''">Set aside</UiButton>
      </form>
    </div>
  </article>
</template>

<style scoped>
/* What takes an instant is not worth a word. */
.late {
  animation: late 0s 0.4s both;
}
@keyframes late {
  from {
    opacity: 0;
  }
}
</style>
