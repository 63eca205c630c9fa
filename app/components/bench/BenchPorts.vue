<script setup lang="ts">
import { sentSysexBy } from '~/lib/bench/sysex-need'
import { troubleWords } from '~/lib/bench/port-words'
import type { RigPort } from '~/stores/ports'

/** Which real port stands for which of the rig: on this computer only. */
const ports = usePortsStore()
const rigs = useRigStore()
const preferences = usePreferencesStore()
const SIMULATED = ''

const asked = computed(() => (ports.trouble ? troubleWords(ports.trouble) : null))
const groups = computed(() => [
  {
    name: 'Controllers',
    hint: 'Hear a real controller in place of the simulated one, and set its lights.',
    ports: ports.rigPorts.filter(({ work }) => work === 'plays' || work === 'lights'),
  },
  {
    name: 'Destinations',
    hint: 'Send what arrives at a destination to a real one as well.',
    ports: ports.rigPorts.filter(({ work }) => work === 'receives'),
  },
  {
    name: 'Sent back to simulated controllers',
    hint: 'Let a simulated controller hear a real program: lights it sets, layers it chooses.',
    ports: ports.rigPorts.filter(({ work }) => work === 'comes-in'),
  },
])
function optionsFor({ key, direction, work }: RigPort) {
  const there = ports.real
    .filter((port) => port.direction === direction && port.isThere)
    .map(({ id, name }) => ({ value: id, label: name }))
  const stands = ports.stands(key)
  const remembered = ports.chosen[key]
  const gone =
    remembered && !stands?.isThere
      ? [{ value: remembered.id, label: remembered.name, hint: 'not there' }]
      : []
  return [{ value: SIMULATED, label: work === 'comes-in' ? 'nothing real' : 'simulated' }, ...there, ...gone]
}
const valueOf = ({ key }: RigPort): string => {
  const stands = ports.stands(key)
  return (stands?.isThere ? stands.id : ports.chosen[key]?.id) ?? SIMULATED
}
const wordsFor = ({ key }: RigPort) => {
  const trouble = ports.troubles[key]
  return trouble ? troubleWords(trouble, ports.chosen[key]?.name) : null
}
const sysexBy = computed(() =>
  rigs.rig && ports.isOpen && !ports.hasSysex ? sentSysexBy(rigs.rig, ports.realControllers) : [],
)
const needsSysex = computed(
  () => sysexBy.value.length > 0 || Object.values(ports.troubles).includes('needs-sysex'),
)
</script>

<template>
  <div class="min-h-0 flex-1 overflow-y-auto px-5 pb-4" data-testid="bench-ports">
    <p class="text-soft pb-2 text-xs">
      Everything is simulated until a real port takes its place. Which one does is remembered on this
      computer, not in the rig.
    </p>
    <div v-if="asked" class="text-conflict pb-2" role="status" data-testid="ports-trouble">
      <p class="font-bold">{{ asked.what }}</p>
      <p class="text-ink">{{ asked.todo }}</p>
    </div>
    <UiButton
      v-if="!ports.isOpen"
      look="strong"
      :disabled="ports.isAsking"
      data-testid="ask-ports"
      @click="ports.ask()"
      >{{
        ports.isAsking ? 'Asking the browser…' : asked ? 'Ask again' : 'Use the ports of this computer'
      }}</UiButton
    >
    <template v-else>
      <p v-if="ports.real.length === 0" class="pb-2">
        No port is plugged in. What you plug in appears here by itself.
      </p>
      <section
        v-for="group in groups"
        :key="group.name"
        :aria-label="group.name"
        class="border-line border-t py-2"
      >
        <h3 class="font-bold">{{ group.name }}</h3>
        <p class="text-soft pb-1 text-xs">{{ group.hint }}</p>
        <div v-for="port in group.ports" :key="port.key" class="py-0.5">
          <div class="flex min-h-7 items-center gap-2">
            <span class="min-w-0 flex-1 truncate"
              >{{ port.owner }} <span class="text-soft">· {{ port.name }}</span></span
            >
            <UiSelect
              :label="
                port.work === 'comes-in'
                  ? `What ${port.owner}, ${port.name}, hears`
                  : `What stands for ${port.owner}, ${port.name}`
              "
              :model-value="valueOf(port)"
              :options="optionsFor(port)"
              is-right
              :data-port="port.key"
              @update:model-value="ports.choose(port.key, $event === SIMULATED ? null : $event)"
            />
          </div>
          <p v-if="wordsFor(port)" class="text-conflict text-xs" role="status" :data-port-trouble="port.key">
            {{ wordsFor(port)?.what }} <span class="text-ink">{{ wordsFor(port)?.todo }}</span>
            <UiButton
              v-if="ports.troubles[port.key] === 'held' || ports.troubles[port.key] === 'failed'"
              class="ml-1"
              :data-retry="port.key"
              @click="ports.retry(port.key)"
              >Try again</UiButton
            >
          </p>
        </div>
      </section>
      <section class="border-line border-t py-2">
        <label class="flex min-h-7 items-center gap-2">
          <input
            v-model="preferences.followHand"
            type="checkbox"
            class="accent-ink size-4"
            data-testid="follow-hand"
          />
          Follow the hand: what you move is selected on the Desk
        </label>
      </section>
      <section v-if="!ports.hasSysex" class="border-line border-t py-2" data-testid="needs-sysex">
        <p v-if="!needsSysex" class="text-soft text-xs">
          What hardware says by SysEx is not heard: the browser holds it back until it is asked for.
        </p>
        <p v-else>
          {{ sysexBy.length > 0 ? `${sysexBy.join(' and ')} sends SysEx` : 'SysEx is to be sent' }}, which the
          browser holds back until it is asked for.
        </p>
        <UiButton class="mt-1" :disabled="ports.isAsking" @click="ports.ask(true)">Ask for SysEx</UiButton>
      </section>
    </template>
  </div>
</template>
