<script setup lang="ts">
import { rigIndex } from '#core/rig'
import type { Move } from '~/lib/bench/moves'

/** What moves at the destinations, newest first. */
const bench = useBenchStore()
const rigs = useRigStore()
const strangers = computed(() => bench.moves.filter(({ isStranger }) => isStranger))
const ownerOf = ({ controller }: Move) =>
  rigs.rig ? rigIndex(rigs.rig).controllers.get(controller) : undefined
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col" data-testid="what-moves">
    <p v-if="bench.moves.length === 0" class="text-soft px-5">
      Move something on the surface: drag or turn it, use the wheel, or walk to it by Tab and press the
      arrows.
    </p>
    <ul v-else class="min-h-0 flex-1 overflow-y-auto px-3">
      <li v-for="move in bench.moves" :key="move.key">
        <button
          type="button"
          class="hover:bg-hair contain-content grid w-full grid-cols-[minmax(0,1fr)_auto_6rem_5.5rem] items-center gap-x-2 rounded-md px-2 py-1 text-left"
          :data-move="move.key"
          @click="bench.follow(move.controller, move.gesture)"
        >
          <span class="min-w-0">
            <span class="block truncate font-bold" :class="move.isStranger && 'text-conflict'">{{
              move.name
            }}</span>
            <span class="text-soft block truncate text-xs"
              >{{ move.place }}<template v-if="move.isHeldBack">, waits to be met</template></span
            >
          </span>
          <LetterBadge
            v-if="ownerOf(move)"
            :letter="ownerOf(move)?.letter ?? ''"
            :hue="ownerOf(move)?.hue ?? 0"
          />
          <span class="bg-hair block h-1.5 rounded-full">
            <span
              v-if="move.share !== null"
              class="block h-full rounded-full"
              :style="{ width: `${move.share * 100}%`, background: `var(--hue-${ownerOf(move)?.hue ?? 0})` }"
            />
          </span>
          <span class="tag truncate text-right">{{ move.text }}</span>
        </button>
      </li>
    </ul>
    <p
      v-if="strangers.length > 0"
      class="text-conflict border-line border-t px-5 py-2 font-bold"
      data-testid="strangers"
    >
      {{
        strangers.length === 1
          ? '1 moved that was not meant to: pick it to follow why'
          : `${strangers.length} moved that were not meant to: pick one to follow why`
      }}
    </p>
  </div>
</template>
