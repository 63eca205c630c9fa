<script setup lang="ts">
import { ASK_WORDS, COMPANION_WORDS, guessFacts } from '#core/listen'
import { guessTag, guessWords, valueLine } from '~/lib/bench/find-out'

/** Find out what a control is by moving it. */
const listening = useListeningStore()
const [WIDTH, HEIGHT] = [360, 56]

const words = computed(() => (listening.guess ? guessWords(listening.guess) : null))
const facts = computed(() => (listening.guess ? guessFacts(listening.guess) : []))
const line = computed(() => (listening.guess ? valueLine(listening.guess, WIDTH, HEIGHT) : ''))
const others = computed(() => listening.recent.filter((each) => each !== listening.guess?.sender))
const isTurned = computed(
  () => listening.guess?.isConfident === true && listening.guess.fitting[0]?.kind === 'relative',
)
const asks = computed(() => listening.guess?.asks ?? [])
</script>

<template>
  <div class="min-h-0 flex-1 overflow-y-auto px-5 pb-4" data-testid="find-out">
    <template v-if="!listening.isOn">
      <p class="pb-2">
        Move a control, on real hardware or here: you are told what it sends, what it is, and what would
        settle it where it could be several things.
      </p>
      <UiButton look="strong" data-testid="listen" @click="listening.turn(true)">Listen</UiButton>
    </template>
    <template v-else>
      <div class="flex min-h-7 items-center gap-2" role="status">
        <span class="bg-marker border-ink size-2.5 rounded-full border" aria-hidden="true" />
        <span class="min-w-0 flex-1 font-bold">Listening</span>
        <UiButton @click="listening.forget()">Begin anew</UiButton>
        <UiButton data-testid="stop-listening" @click="listening.turn(false)">Stop</UiButton>
      </div>
      <p v-if="!listening.guess" class="text-soft pt-2">
        Move one control. If nothing comes, see under Ports whether the right one is heard, and whether the
        hardware transmits at all.
      </p>
      <template v-else-if="words">
        <div class="flex items-baseline gap-2 pt-2">
          <span class="tag text-base font-bold" data-testid="heard-tag">{{ guessTag(listening.guess) }}</span>
          <span
            class="rounded-sm px-1.5 text-xs font-bold"
            :class="
              listening.guess.isConfident ? 'bg-marker text-on-marker' : 'border-line border border-dashed'
            "
            data-testid="how-sure"
            >{{ listening.guess.isConfident ? 'sure' : 'not sure yet' }}</span
          >
        </div>
        <p data-testid="likely">
          {{ words.best ? `It is ${words.best}.` : 'Nothing that is known here works like this.' }}
        </p>
        <ul v-if="words.others.length > 0" class="text-soft text-xs" aria-label="What else it could be">
          <li v-for="other in words.others" :key="other">or {{ other }}</li>
        </ul>
        <svg
          :viewBox="`-2 -2 ${WIDTH + 4} ${HEIGHT + 4}`"
          class="border-line my-2 block h-14 w-full border-y"
          preserveAspectRatio="none"
          role="img"
          :aria-label="`Values as they came, ${listening.guess.low} to ${listening.guess.high}`"
        >
          <path
            :d="line"
            class="stroke-ink fill-none"
            stroke-width="1.4"
            vector-effect="non-scaling-stroke"
          />
        </svg>
        <div
          v-if="listening.asking"
          class="bg-marker text-on-marker rounded-md px-3 py-2"
          role="status"
          data-testid="asked"
        >
          <p class="font-bold">Now: {{ ASK_WORDS[listening.asking.ask] }}</p>
          <div class="flex items-center gap-2 pt-1">
            <span class="tag min-w-0 flex-1 text-xs">{{ listening.answered }} messages</span>
            <UiButton data-testid="done-asked" @click="listening.finish()">Done</UiButton>
          </div>
        </div>
        <div v-else-if="asks.length > 0" class="border-line rounded-md border px-3 py-2" data-testid="asks">
          <p v-if="listening.isSilent" class="text-conflict pb-1">
            Nothing came. Perhaps it cannot be done with this control: try the next.
          </p>
          <p class="font-bold">To be sure, do one of these:</p>
          <div v-for="ask in asks" :key="ask" class="flex items-center gap-2 pt-1">
            <span class="min-w-0 flex-1 text-xs">{{ ASK_WORDS[ask] }}</span>
            <UiButton :data-ask="ask" @click="listening.ask(ask)">I do it now</UiButton>
          </div>
        </div>
        <div v-else-if="isTurned" class="flex items-center gap-2 py-1">
          <span class="text-soft min-w-0 flex-1 text-xs">{{ ASK_WORDS.round }}</span>
          <UiButton data-testid="count-clicks" @click="listening.ask('round')">Count its clicks</UiButton>
        </div>
        <ul v-if="facts.length > 0" class="pt-2 text-xs">
          <li v-for="fact in facts" :key="fact">{{ fact }}</li>
        </ul>
        <ul
          v-if="listening.companions.length > 0"
          class="text-xs"
          aria-label="What goes with it"
          data-testid="companions"
        >
          <li v-for="{ sender, kind } in listening.companions" :key="sender">
            <button type="button" class="tag hover:text-ink underline" @click="listening.look(sender)">
              {{ sender }}
            </button>
            {{ COMPANION_WORDS[kind] }}
          </li>
        </ul>
        <BenchWritten />
      </template>
      <p v-if="others.length > 0" class="text-soft flex flex-wrap items-center gap-1.5 pt-2 text-xs">
        Heard before:
        <button
          v-for="each in others"
          :key="each"
          type="button"
          class="tag hover:text-ink underline"
          @click="listening.look(each)"
        >
          {{ each }}
        </button>
      </p>
    </template>
  </div>
</template>
