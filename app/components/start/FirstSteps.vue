<script setup lang="ts">
import { Check } from '@lucide/vue'
import { firstNumbers, firstSteps, USUAL_SENDING, waysToJoin, type FirstStep } from '#core/rig'

/** From an empty rig to a finished map: what is done, and the next thing, where it can be done. */
const rigs = useRigStore()
const adding = useAddingStore()
const desk = useDeskStore()
const preferences = usePreferencesStore()
const edit = useEdit()

const steps = computed(() => (rigs.rig ? firstSteps(rigs.rig) : []))
const next = computed(() => steps.value.find(({ isDone }) => !isDone) ?? null)
const TITLES: Readonly<Record<FirstStep['id'], string>> = {
  controllers: 'What you have',
  destinations: 'What it should move',
  cables: 'Cables',
  numbers: 'Numbers',
  join: 'Join controls to parameters',
}
const unjoined = computed(() => {
  const { rig } = rigs
  if (!rig || next.value?.id !== 'cables') return []
  return next.value.open.map(({ id, name }) => ({ id, name, ways: waysToJoin(rig, id) }))
})
function giveNumbers(): void {
  const { rig } = rigs
  if (!rig || next.value?.id !== 'numbers') return
  const edits = next.value.silent.flatMap(
    ({ controller }) => firstNumbers(rig, controller, USUAL_SENDING).edits,
  )
  edit('Give them numbers', edits)
}
async function join(): Promise<void> {
  await navigateTo('/desk')
  desk.panel = 'selection'
  preferences.lens = 'destinations'
}
const canDraw = useRoute().path !== '/rig'
</script>

<template>
  <section v-if="next" aria-labelledby="first-steps" data-testid="first-steps">
    <h3 id="first-steps" class="font-bold">From here to a finished map</h3>
    <ol class="mt-1.5">
      <li
        v-for="(step, index) in steps"
        :key="step.id"
        class="border-line border-t py-1.5"
        :data-step="step.id"
        :data-done="step.isDone"
      >
        <div class="flex items-center gap-2" :class="step === next ? 'font-medium' : 'text-soft'">
          <Check v-if="step.isDone" :size="13" class="shrink-0" aria-label="Done:" />
          <span v-else class="tag w-[13px] shrink-0 text-center">{{ index + 1 }}</span>
          {{ TITLES[step.id] }}
        </div>
        <div v-if="step === next" class="mt-1 ml-[21px] flex flex-col items-start gap-1.5">
          <template v-if="next.id === 'controllers'">
            <p class="text-soft">The hardware that sends: knobs, faders, pads, keys, pedals.</p>
            <UiButton look="strong" @click="adding.what = 'controller'">Add a controller</UiButton>
          </template>
          <template v-else-if="next.id === 'destinations'">
            <p class="text-soft">
              A DAW, a synth, a drum machine, an effect. Or add another controller first.
            </p>
            <span class="flex flex-wrap gap-1.5">
              <UiButton look="strong" data-testid="first-destination" @click="adding.what = 'destination'"
                >Add a destination</UiButton
              >
              <UiButton @click="adding.what = 'controller'">Another controller</UiButton>
            </span>
          </template>
          <template v-else-if="next.id === 'cables'">
            <div v-for="{ id, name, ways } in unjoined" :key="id" :data-unjoined="id">
              <p class="text-soft">{{ name }} is joined to nothing. Cable it</p>
              <span class="mt-1 flex flex-wrap gap-1.5">
                <UiButton
                  v-for="way in ways"
                  :key="way.name"
                  @click="edit(`Cable ${name} ${way.name}`, way.edits)"
                  >{{ way.name }}</UiButton
                >
                <span v-if="ways.length === 0" class="text-soft"
                  >by hand in the picture: nothing here has a free in for it.</span
                >
              </span>
            </div>
            <UiButton v-if="canDraw" look="plain" class="-ml-2.5" @click="navigateTo('/rig')"
              >Or draw cables in the rig</UiButton
            >
          </template>
          <template v-else-if="next.id === 'numbers'">
            <p v-for="{ controller, count } in next.silent" :key="controller.id" class="text-soft">
              {{ controller.name }} sends nothing yet: {{ count }} controls could.
            </p>
            <UiButton look="strong" @click="giveNumbers">Give them free numbers</UiButton>
          </template>
          <template v-else>
            <p class="text-soft">
              Select controls on the surface, pick what they are to move, and join them: first to first, in
              order.
            </p>
            <UiButton look="strong" data-testid="first-join" @click="join">Show what can be moved</UiButton>
          </template>
        </div>
      </li>
    </ol>
  </section>
</template>
