<script setup lang="ts">
import { Check } from '@lucide/vue'
import { mappingName, placeOfMapping, type RelearnGroup, type RelearnLine } from '#core/mappings'
import { printTag } from '#core/midi'
import { parameterName, type Rig } from '#core/rig'

/** What must be taught again, by destination, in the order of the sitting; ticked off as it is done. */
const rigs = useRigStore()
const desk = useDeskStore()
const analysis = useAnalysisStore()
const edit = useEdit()
const goProve = useGoProve()

const groups = shallowRef<readonly RelearnGroup[] | null>(null)
const failure = ref<string | null>(null)
watch(
  () => rigs.revision,
  async (revision) => {
    try {
      const found = await analysis.relearn()
      if (revision === rigs.revision) groups.value = found
      failure.value = null
    } catch (error) {
      failure.value = error instanceof Error ? error.message : String(error)
    }
  },
  { immediate: true },
)
const count = computed(() => groups.value?.reduce((sum, { lines }) => sum + lines.length, 0) ?? 0)
/** One destination at a time, where there are many lines. */
const only = ref<string | null>(null)
const shown = computed(() => {
  const all = groups.value ?? []
  const one = all.filter(({ destination }) => destination.id === only.value)
  return one.length > 0 ? one : all
})
const MOST = 60

function tick({ mapping, kind, done, to }: RelearnLine): void {
  const name = rigs.rig ? mappingName(rigs.rig, mapping) : ''
  edit(kind === 'clear' ? `Cleared ${name}` : `${name} learned ${to ? printTag(to) : ''}`, [done])
}
/** Where the destination listens now, and where it is to listen. */
const changeWords = ({ was, to }: RelearnLine): string =>
  [was, to].flatMap((address) => (address ? [printTag(address)] : [])).join(' → ')

function go(rig: Rig | null, { mapping }: RelearnLine): void {
  const place = rig ? placeOfMapping(rig, mapping) : null
  if (!place) return
  desk.goTo(place)
  desk.panel = 'teach'
}
</script>

<template>
  <div class="px-5 py-4" data-testid="teach-panel">
    <h2 class="text-lg font-bold">Teach again</h2>
    <p v-if="failure" class="text-conflict mt-2" role="alert">
      This could not be worked out: {{ failure }} Change anything to try again.
    </p>
    <p v-else-if="groups === null" class="text-soft mt-2">Looking through every mapping…</p>
    <template v-else-if="count === 0">
      <p class="text-soft mt-2">
        Every destination listens to what its controls send. When a number changes, what has to be learned
        anew is listed here.
      </p>
    </template>
    <template v-else>
      <p class="text-soft mt-1">
        {{ count === 1 ? 'One thing' : `${count} things` }} to do, in the order of the sitting. Tick off what
        the destination has learned.
      </p>
      <UiButton class="mt-2" data-testid="teach-one-by-one" @click="goProve('teach')"
        >Teach them one by one on the Bench</UiButton
      >
      <div v-if="groups.length > 1" class="mt-2 flex flex-wrap gap-1" role="group" aria-label="Destination">
        <ChipToggle
          v-for="{ destination, lines } in groups"
          :key="destination.id"
          :is-on="only === destination.id"
          @click="only = only === destination.id ? null : destination.id"
          >{{ destination.name }} {{ lines.length }}</ChipToggle
        >
      </div>
      <section v-for="{ destination, lines } in shown" :key="destination.id" class="mt-3">
        <h3 class="font-bold">{{ destination.name }}</h3>
        <ol class="mt-1">
          <li
            v-for="line in lines.slice(0, MOST)"
            :key="line.mapping.id"
            class="border-hair flex items-start gap-2 border-t py-1.5"
            :data-teach="line.mapping.id"
            :data-kind="line.kind"
          >
            <UiButton
              class="group mt-0.5 size-6! justify-center px-0!"
              :label="`Done: ${line.text}`"
              :disabled="!rigs.canEdit || line.hindrance !== null"
              data-testid="tick"
              @click="tick(line)"
              ><Check :size="13" class="opacity-0 group-hover:opacity-100 group-focus-visible:opacity-100"
            /></UiButton>
            <div class="min-w-0 flex-1">
              <button type="button" class="text-left hover:underline" @click="go(rigs.rig, line)">
                {{ line.text }}
              </button>
              <p class="text-soft text-xs">
                {{ parameterName(line.parameter) }}
                <span class="tag">{{ changeWords(line) }}</span>
              </p>
              <p v-if="line.hindrance" class="text-advice text-xs">{{ line.hindrance }}</p>
            </div>
          </li>
        </ol>
        <p v-if="lines.length > MOST" class="text-soft text-xs">
          and {{ lines.length - MOST }} more, when these are done
        </p>
      </section>
    </template>
  </div>
</template>
