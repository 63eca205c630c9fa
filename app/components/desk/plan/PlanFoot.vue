<script setup lang="ts">
import type { Plan } from '#core/allocate'
import { someOf } from '~/lib/some-of'
import { toast } from '~/lib/toast'

/** Make the plan, as one step. */
const { plan } = defineProps<{ plan: Plan }>()
const plans = usePlanStore()
const rigs = useRigStore()
// The plan has said what must be taught again.
const edit = useEdit({ isSeen: true })

const count = computed(() => plan.changes.length + plan.cures.length)
const label = computed(() => (count.value === 1 ? 'Make this change' : `Make these ${count.value} changes`))

function make(): void {
  const { stale } = plan
  if (
    !edit(`Plan: ${plan.changes.length} ${plan.changes.length === 1 ? 'address' : 'addresses'}`, plan.edits)
  )
    return
  plans.close()
  toast(
    stale.length === 0
      ? 'The plan is made. Nothing has to be taught again.'
      : `The plan is made. To teach again: ${someOf(
          stale.map(({ name }) => name),
          3,
        )}.`,
  )
}
</script>

<template>
  <footer class="border-line flex shrink-0 items-center gap-2 border-t px-5 py-2">
    <UiButton
      look="strong"
      data-testid="plan-make"
      :disabled="count === 0 || plans.isBusy || !rigs.canEdit"
      @click="make"
      >{{ count === 0 ? 'Nothing to change' : label }}</UiButton
    >
    <span class="text-soft text-xs">One step; Undo takes it back.</span>
  </footer>
</template>
