<script setup lang="ts">
import { BaseEdge } from '@vue-flow/core'
import type { CSSProperties } from 'vue'
import { cableRoute, type Obstacle } from '~/lib/cable-route'

/** A cable that goes round the cards in its way. */
const { sourceX, sourceY, targetX, targetY, cards, lane } = defineProps<{
  sourceX: number
  sourceY: number
  targetX: number
  targetY: number
  cards: readonly Obstacle[]
  lane: number
  label: string
  markerEnd: string
  labelStyle: CSSProperties
  labelBgStyle: CSSProperties
}>()
const route = computed(() => cableRoute({ x: sourceX, y: sourceY }, { x: targetX, y: targetY }, cards, lane))
</script>

<template>
  <BaseEdge
    :path="route.path"
    :label-x="route.middle.x"
    :label-y="route.middle.y"
    :label="label"
    :marker-end="markerEnd"
    :label-style="labelStyle"
    label-show-bg
    :label-bg-style="labelBgStyle"
  />
</template>
