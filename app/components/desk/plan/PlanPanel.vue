<script setup lang="ts">
import { X } from '@lucide/vue'
import { TERMS } from '#core/allocate'

/** A plan for addresses: what is asked, what is proposed, and making it. */
const plans = usePlanStore()
const rigs = useRigStore()

const progress = computed(() => {
  const { progress: now } = plans
  if (!now) return 'Looking at what may move…'
  const first = plans.isFirst ? 'A first plan is below. ' : ''
  const part = now.of > 1 ? `part ${now.done + 1} of ${now.of}, ` : ''
  return `${first}Planning: ${part}${now.proven.length} of ${TERMS.length} counts proven…`
})
const heading = useTemplateRef('heading')
onMounted(() => heading.value?.focus())
</script>

<template>
  <section class="bg-sheet flex h-full flex-col" aria-label="Plan addresses" data-testid="plan">
    <header class="border-line flex h-11 shrink-0 items-center justify-between border-b pr-3 pl-5">
      <h2 ref="heading" tabindex="-1" class="text-base font-bold outline-none">Plan addresses</h2>
      <UiButton look="plain" label="Close the plan" @click="plans.close()"><X :size="15" /></UiButton>
    </header>
    <div class="min-h-0 flex-1 overflow-y-auto">
      <PlanForm class="border-line border-b px-5 py-3" />
      <p v-if="plans.isBusy" class="flex items-center justify-between gap-3 px-5 py-3" role="status">
        <span class="text-soft">{{ progress }}</span>
        <UiButton data-testid="plan-stop" @click="plans.stop()">Stop here</UiButton>
      </p>
      <p v-else-if="plans.failure" class="text-conflict px-5 py-3" role="alert" data-testid="plan-refused">
        {{ plans.failure }}
      </p>
      <p
        v-else-if="plans.plan && !plans.isCurrent"
        class="flex items-center justify-between gap-3 px-5 py-3"
        role="status"
      >
        <span>The rig has changed since this was planned.</span>
        <UiButton @click="plans.run()">Plan again</UiButton>
      </p>
      <PlanResult
        v-if="plans.plan && rigs.rig && plans.isCurrent"
        :class="plans.isBusy && 'opacity-50'"
        :aria-busy="plans.isBusy"
        :plan="plans.plan"
        :rig="rigs.rig"
      />
    </div>
    <PlanFoot v-if="plans.plan && plans.isCurrent" :plan="plans.plan" />
  </section>
</template>
