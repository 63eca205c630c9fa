<script setup lang="ts">
import { MISBEHAVIOUR_WORDS, MISBEHAVIOURS, selectedIn, selectionsOf, type Misbehaviour } from '#core/bench'
import type { Destination, Id } from '#core/rig'

/** The simulated destinations: which scope each is in, and what it is asked to do wrong. */
const bench = useBenchStore()
const rigs = useRigStore()
const NONE = ''
const destinations = computed(() => rigs.rig?.destinations ?? [])
const scopesOf = ({ scopes }: Destination) => [
  { value: NONE, label: 'none' },
  ...scopes.map(({ id, name }) => ({ value: id, label: name })),
]
const selectionIn = (destination: Destination): string =>
  selectedIn(destination, bench.state?.destinations[destination.id]?.selected ?? null) ?? ''
const does = (id: Id): readonly Misbehaviour[] => bench.state?.misbehaving[id] ?? []
function toggle(id: Id, what: Misbehaviour): void {
  const now = does(id)
  bench.misbehave(id, now.includes(what) ? now.filter((each) => each !== what) : [...now, what])
}
const opened = ref<Id | null>(null)
</script>

<template>
  <div class="min-h-0 flex-1 overflow-y-auto px-5 pb-4" data-testid="bench-destinations">
    <p class="text-soft pb-2 text-xs">
      Every destination here is simulated. Ask one to do something wrong to see what comes of it.
    </p>
    <p v-if="destinations.length === 0" class="text-soft">This rig has no destination yet.</p>
    <section
      v-for="destination in destinations"
      :key="destination.id"
      class="border-line border-t py-2"
      :aria-label="destination.name"
    >
      <div class="flex min-h-7 items-center gap-2">
        <h3 class="min-w-0 flex-1 truncate font-bold">{{ destination.name }}</h3>
        <UiSelect
          v-if="destination.scopes.length > 0"
          :label="`Scope of ${destination.name}`"
          caption="in"
          :model-value="bench.state?.destinations[destination.id]?.scope ?? NONE"
          :options="scopesOf(destination)"
          @update:model-value="bench.enter(destination.id, $event === NONE ? null : $event)"
        />
        <UiButton
          :aria-expanded="opened === destination.id"
          :data-manners="destination.id"
          @click="opened = opened === destination.id ? null : destination.id"
          >{{ does(destination.id).length > 0 ? 'misbehaves' : 'behaves' }}</UiButton
        >
      </div>
      <div v-if="selectionsOf(destination).length > 0" class="flex min-h-7 items-center">
        <UiSelect
          :label="`Selected in ${destination.name}`"
          caption="selected"
          :model-value="selectionIn(destination)"
          :options="selectionsOf(destination).map((each) => ({ value: each, label: each }))"
          :data-selected-in="destination.id"
          @update:model-value="bench.select(destination.id, $event)"
        />
      </div>
      <ul v-if="opened === destination.id" class="pt-1.5">
        <li v-for="what in MISBEHAVIOURS" :key="what">
          <label class="flex min-h-7 items-center gap-2">
            <input
              type="checkbox"
              class="accent-ink size-4"
              :checked="does(destination.id).includes(what)"
              :data-misbehaves="what"
              @change="toggle(destination.id, what)"
            />
            {{ MISBEHAVIOUR_WORDS[what] }}
          </label>
        </li>
      </ul>
      <p v-else-if="does(destination.id).length > 0" class="text-conflict text-xs">
        {{ destination.name }}
        {{
          does(destination.id)
            .map((what) => MISBEHAVIOUR_WORDS[what])
            .join('; ')
        }}.
      </p>
    </section>
  </div>
</template>
