<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { takeId, type Destination, type Scope } from '#core/rig'

/** Projects, presets or pages in which mappings count that count nowhere else. */
const { destination } = defineProps<{ destination: Destination }>()
const rigs = useRigStore()
const edit = useEdit()
const takeAway = useRemoval()

const put = (scopes: Scope[]) => [
  { type: 'destination-set' as const, destination: destination.id, set: { scopes } },
]
const lines = computed(() =>
  destination.scopes.map((scope) => ({
    scope,
    count:
      rigs.rig?.mappings.filter((each) => each.destination === destination.id && each.scope === scope.id)
        .length ?? 0,
    switches: destination.parameters
      .filter(({ switchesTo }) => switchesTo === scope.id)
      .map(({ name }) => name),
    passages:
      rigs.rig?.passages
        .filter(({ scopes }) =>
          scopes.some((each) => each.destination === destination.id && each.scope === scope.id),
        )
        .map(({ name }) => name) ?? [],
  })),
)
function add(): void {
  const name = `Project ${destination.scopes.length + 1}`
  const id = takeId(name, new Set(destination.scopes.map((each) => each.id)))
  edit(`Add ${name}`, put([...destination.scopes, { id, name }]))
}
const rename = (scope: Scope, name: string): boolean =>
  edit(`Name it ${name}`, put(destination.scopes.map((each) => (each === scope ? { ...each, name } : each))))
</script>

<template>
  <div class="min-h-0 flex-1 overflow-auto px-4 py-2 text-xs">
    <p class="text-soft max-w-prose pb-2">
      A scope is a project, preset or page of {{ destination.name }}. A mapping that counts only there wins
      over one of the same control that counts everywhere.
    </p>
    <table v-if="lines.length > 0" class="text-left">
      <thead class="text-soft">
        <tr>
          <th class="py-1 pr-3 font-medium">Scope</th>
          <th class="pr-4 font-medium">Mappings</th>
          <th class="pr-4 font-medium">Switched to by</th>
          <th class="pr-4 font-medium">Passages</th>
          <th class="sr-only">Remove</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="{ scope, count, switches, passages } in lines"
          :key="scope.id"
          class="border-hair border-t"
        >
          <td class="py-0.5 pr-3">
            <InlineName
              class="w-52"
              :value="scope.name"
              label="Name of the scope"
              @change="rename(scope, $event)"
            />
          </td>
          <td class="tag pr-4">{{ count }}</td>
          <td class="pr-4">{{ switches.join(', ') || '–' }}</td>
          <td class="pr-4">{{ passages.join(', ') || '–' }}</td>
          <td>
            <UiButton
              look="plain"
              class="px-1!"
              :label="`Remove ${scope.name} and what counts only there`"
              @click="
                takeAway(`Remove ${scope.name}`, put(destination.scopes.filter((each) => each !== scope)))
              "
              ><X :size="13"
            /></UiButton>
          </td>
        </tr>
      </tbody>
    </table>
    <UiButton class="mt-2" data-testid="add-scope" @click="add"><Plus :size="13" />Add a scope</UiButton>
  </div>
</template>
