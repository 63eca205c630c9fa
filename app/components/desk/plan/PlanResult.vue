<script setup lang="ts">
import { ArrowRight, ChevronRight, TriangleAlert } from '@lucide/vue'
import { TERMS, type Plan } from '#core/allocate'
import type { Rig } from '#core/rig'
import { groupsOf, proofOf, summaryOf, TERM_WORDS } from '~/lib/plan/words'

/** What a plan proposes, line by line; a line can be struck out. */
const { plan, rig } = defineProps<{ plan: Plan; rig: Rig }>()
const plans = usePlanStore()
const desk = useDeskStore()

const groups = computed(() => groupsOf(rig, plan))
const teaches = computed(() => plan.stale.length + plan.silenced.length)
const counts = computed(() => TERMS.filter((term) => plan.score[term] > 0 || term === 'errors'))
/** The steps are numbered in the order in which they are done: cures, numbers, teaching. */
const firstGroup = computed(() => (plan.cures.length > 0 ? 2 : 1))
const struckCount = computed(() => plans.struck.length)
</script>

<template>
  <div class="px-5 py-3 text-xs" data-testid="plan-result">
    <p class="font-bold" data-testid="plan-summary">{{ summaryOf(plan) }}</p>
    <p class="text-soft mt-0.5">
      {{
        plans.kind === 'stand-in' ? 'Matched by how it is moved, kind, behaviour and place.' : proofOf(plan)
      }}
      <button
        v-if="struckCount > 0"
        type="button"
        class="hover:text-ink underline"
        @click="((plans.struck = []), plans.run())"
      >
        Bring back what was struck out ({{ struckCount }})
      </button>
    </p>

    <section v-if="plans.cures.length > 0" class="mt-3" data-testid="plan-cures">
      <h3 class="font-bold">What it cures</h3>
      <CauseLines :lines="plans.cures" />
    </section>

    <ul v-if="plan.shortages.length > 0" class="mt-2 flex flex-col gap-2" data-testid="plan-shortages">
      <li v-for="shortage in plan.shortages" :key="shortage.message" class="border-conflict border-l-2 pl-2">
        <button
          type="button"
          class="text-left hover:underline"
          :disabled="shortage.at.length === 0"
          @click="shortage.at[0] && desk.goTo(shortage.at[0])"
        >
          <TriangleAlert :size="12" class="text-conflict mr-1 inline" aria-hidden="true" />{{
            shortage.message
          }}
        </button>
        <p class="text-soft">{{ shortage.help }}</p>
      </li>
    </ul>

    <section v-if="plan.cures.length > 0" class="mt-3">
      <h3 class="flex items-center gap-1.5 font-bold" data-plan-step>
        <PlanStep :number="1" />Cure without another number
      </h3>
      <ul>
        <li
          v-for="cure in plan.cures"
          :key="cure.key"
          class="border-line flex items-start gap-2 border-t py-1"
        >
          <input
            type="checkbox"
            checked
            class="accent-ink mt-0.5"
            :aria-label="`Keep: ${cure.label}`"
            @change="plans.strike(cure.key)"
          />
          <span class="min-w-0" :title="cure.reason">{{ cure.label }}</span>
        </li>
      </ul>
    </section>

    <section v-for="(group, index) in groups" :key="group.key" class="mt-3" data-plan-group>
      <h3 class="flex items-center gap-1.5 font-bold" data-plan-step>
        <PlanStep :number="firstGroup + index" /><LetterBadge :letter="group.letter" :hue="group.hue" />{{
          group.title
        }}
      </h3>
      <ul>
        <li
          v-for="line in group.lines"
          :key="line.key"
          class="border-line flex items-start gap-2 border-t py-1"
        >
          <input
            type="checkbox"
            checked
            class="accent-ink mt-0.5"
            :aria-label="`Keep: ${line.name} to ${line.to}`"
            :data-line="line.key"
            @change="plans.strike(line.key)"
          />
          <button type="button" class="min-w-0 flex-1 text-left" @click="desk.goTo(line.change.at)">
            <span class="flex items-baseline gap-2">
              <span class="min-w-0 flex-1 truncate">{{ line.name }}</span>
              <span class="tag shrink-0 whitespace-nowrap">
                <span class="text-soft">{{ line.from }}</span>
                <ArrowRight :size="11" class="mx-1 inline" aria-label="to" /><strong>{{ line.to }}</strong>
              </span>
            </span>
            <span class="text-soft line-clamp-4">{{ line.reason }}</span>
          </button>
        </li>
      </ul>
    </section>

    <details v-if="teaches > 0" class="group mt-3">
      <summary class="flex cursor-pointer items-center gap-1 font-bold">
        <PlanStep :number="firstGroup + groups.length" /><ChevronRight
          :size="13"
          class="group-open:rotate-90"
          aria-hidden="true"
        />Teach again
        <span class="tag font-normal">{{ teaches }}</span>
      </summary>
      <ul>
        <li v-for="each in plan.stale" :key="each.mapping" class="border-line border-t py-1">
          {{ each.name }}
        </li>
        <li v-for="{ message } in plan.silenced" :key="message" class="border-line border-t py-1">
          {{ message }}
        </li>
      </ul>
    </details>
    <details v-if="plan.leaves.length > 0" class="group mt-2">
      <summary class="flex cursor-pointer items-center gap-1 font-bold">
        <ChevronRight :size="13" class="group-open:rotate-90" aria-hidden="true" />Errors left
        <span class="tag font-normal">{{ plan.leaves.length }}</span>
      </summary>
      <CauseLines :lines="plans.leaves" />
    </details>
    <details class="group mt-2">
      <summary class="flex cursor-pointer items-center gap-1 font-bold">
        <ChevronRight :size="13" class="group-open:rotate-90" aria-hidden="true" />How it scores
      </summary>
      <ol>
        <li v-for="term in counts" :key="term" class="border-line flex justify-between gap-3 border-t py-1">
          <span>{{ TERM_WORDS[term] }}</span>
          <span class="tag">{{ plan.score[term] }}{{ plan.proven.includes(term) ? ', proven' : '' }}</span>
        </li>
      </ol>
      <p class="text-soft border-line border-t py-1">
        The first count weighs more than all that come after it, and so on. {{ plan.free }} assignments could
        be changed.
      </p>
    </details>
  </div>
</template>
