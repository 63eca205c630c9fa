<script setup lang="ts">
import { MarkerType, VueFlow, useVueFlow, type Connection, type EdgeMouseEvent } from '@vue-flow/core'
import '@vue-flow/core/dist/style.css'
import { CARD_WIDTH, cardsOf, linesOf, type Card } from '~/lib/rig-picture'

/** Controllers, boxes, computers and destinations as cards, with the cables between their ports. */
const rigs = useRigStore()
const picture = usePictureStore()
const { joinPorts } = useCabling()
const { fitView, onNodesInitialized } = useVueFlow('rig-picture')

const cards = computed(() => (rigs.rig ? cardsOf(rigs.rig) : []))
const nodes = computed(() =>
  cards.value.map((card) => ({
    id: card.id,
    type: 'card',
    position: { x: card.x, y: card.y },
    data: card,
    draggable: false,
    connectable: true,
    ariaLabel: `${card.name}, ${card.kind}. Enter selects.`,
  })),
)
const columns = computed(() => new Map(cards.value.map(({ id, x }) => [id, x])))
/** A cable that does not lead on to the right goes round its cards, not behind them. */
const leadsBack = (from: string, to: string): boolean =>
  (columns.value.get(to) ?? 0) <= (columns.value.get(from) ?? 0)
const edges = computed(() =>
  (rigs.rig ? linesOf(rigs.rig) : []).map(({ id, from, to, kind, hue, note }) => {
    const isSelected = picture.current?.kind === 'cable' && picture.current.id === id
    const isMarked = picture.marked.has(id)
    const colour = isMarked
      ? 'var(--conflict)'
      : isSelected
        ? 'var(--ink)'
        : hue === null
          ? 'var(--faint)'
          : `var(--hue-${hue})`
    return {
      id,
      type: leadsBack(from.owner, to.owner) ? 'smoothstep' : 'default',
      source: from.owner,
      sourceHandle: `out:${from.port}`,
      target: to.owner,
      targetHandle: `in:${to.port}`,
      label: note,
      class: isMarked ? 'marked' : '',
      zIndex: isMarked ? 10 : 0,
      ariaLabel: note === '' ? 'Cable' : `Cable with ${note}`,
      selectable: kind === 'cable',
      focusable: kind === 'cable',
      markerEnd: {
        type: MarkerType.ArrowClosed,
        color: colour,
        width: isSelected ? 9 : 14,
        height: isSelected ? 9 : 14,
      },
      style: {
        stroke: colour,
        strokeWidth: isSelected || isMarked ? 3 : 1.8,
        strokeDasharray: kind === 'opens' ? '3 4' : note === '' ? undefined : '7 3',
      },
      labelBgStyle: { fill: 'var(--sheet)' },
      labelStyle: { fill: 'var(--ink)', fontSize: '11px', fontWeight: 550 },
      data: { kind },
    }
  }),
)

const portOf = (handle: string | null | undefined): string => (handle ?? '').replace(/^(in|out):/, '')
function connect({ source, sourceHandle, target, targetHandle }: Connection): void {
  joinPorts({ owner: source, port: portOf(sourceHandle) }, { owner: target, port: portOf(targetHandle) })
}
function pickEdge({ edge }: EdgeMouseEvent): void {
  if (edge.data?.kind === 'cable') picture.select({ kind: 'cable', id: edge.id })
}
const pick = (card: Card): void => picture.select({ kind: card.kind, id: card.id })

// Whenever cards come or go, as soon as the new ones have their size.
onNodesInitialized(() => void fitView({ padding: 0.06 }))
watch(
  () => cards.value.length,
  () => void nextTick(() => fitView({ padding: 0.06 })),
)
</script>

<template>
  <VueFlow
    id="rig-picture"
    :nodes="nodes"
    :edges="edges"
    :min-zoom="0.2"
    :max-zoom="2"
    :delete-key-code="null"
    :disable-keyboard-a11y="true"
    :zoom-on-double-click="false"
    fit-view-on-init
    class="rig-ground"
    data-testid="rig-picture"
    @connect="connect"
    @edge-click="pickEdge"
    @pane-click="picture.select(null)"
  >
    <template #node-card="{ data }">
      <RigCard
        :card="data"
        :is-selected="picture.current?.id === data.id"
        :style="{ width: `${CARD_WIDTH}px` }"
        @pick="pick(data)"
      />
    </template>
  </VueFlow>
</template>

<style scoped>
.rig-ground {
  background-color: var(--ground);
  background-image: radial-gradient(var(--line) 0.9px, transparent 1px);
  background-size: 13px 13px;
}
.rig-ground :deep(.vue-flow__edge.selectable) {
  cursor: pointer;
}
.rig-ground :deep(.vue-flow__handle) {
  width: 10px;
  height: 10px;
  border-radius: 3px;
  background: var(--raised);
  border: 1.5px solid var(--ink);
}
.rig-ground :deep(.vue-flow__handle:hover),
.rig-ground :deep(.vue-flow__handle.connecting),
.rig-ground :deep(.vue-flow__handle.valid) {
  background: var(--marker);
}
</style>
