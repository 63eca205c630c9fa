<script setup lang="ts">
import { LayoutGrid } from '@lucide/vue'
import { MarkerType, Panel, VueFlow, useVueFlow, type Connection, type EdgeMouseEvent } from '@vue-flow/core'
import '@vue-flow/core/dist/style.css'
import { CARD_WIDTH, cardsOf, linesOf, type Card } from '~/lib/rig-picture'

/** Controllers, boxes, computers and destinations as cards, with the cables between their ports. */
const rigs = useRigStore()
const picture = usePictureStore()
const { joinPorts } = useCabling()
const { fitView, onNodesInitialized } = useVueFlow('rig-picture')

const cards = computed(() => (rigs.rig ? cardsOf(rigs.rig, picture.arrangement) : []))
const nodes = computed(() =>
  cards.value.map((card) => ({
    id: card.id,
    type: 'card',
    position: { x: card.x, y: card.y },
    data: card,
    draggable: true,
    connectable: true,
    ariaLabel: `${card.name}, ${card.kind}. Enter selects.`,
  })),
)
const obstacles = computed(() => cards.value.map(({ x, y, height }) => ({ x, y, width: CARD_WIDTH, height })))
const edges = computed(() =>
  (rigs.rig ? linesOf(rigs.rig) : []).map(({ id, from, to, kind, hue, note }, lane) => {
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
      type: 'cable',
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
      data: { kind, lane },
    }
  }),
)

const isMoved = computed(() => Object.keys(picture.arrangement.moved).length > 0)
function arrangeAnew(): void {
  picture.arrangeAnew()
  void nextTick(() => fitView({ padding: 0.06 }))
}
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
    @node-drag-stop="({ node }) => picture.put(node.id, node.position)"
  >
    <template #edge-cable="edge">
      <RigCable
        :source-x="edge.sourceX"
        :source-y="edge.sourceY"
        :target-x="edge.targetX"
        :target-y="edge.targetY"
        :cards="obstacles"
        :lane="edge.data.lane"
        :label="String(edge.label ?? '')"
        :marker-end="edge.markerEnd"
        :style="edge.style"
        :label-style="edge.labelStyle ?? {}"
        :label-bg-style="edge.labelBgStyle ?? {}"
      />
    </template>
    <Panel v-if="isMoved" position="bottom-left">
      <UiButton data-testid="arrange-anew" @click="arrangeAnew"
        ><LayoutGrid :size="13" />Arrange anew</UiButton
      >
    </Panel>
    <template #node-card="{ data }">
      <RigCard
        :card="data"
        :is-selected="picture.current?.id === data.id"
        :style="{ width: `${CARD_WIDTH}px` }"
        :is-unfolded="picture.arrangement.unfolded.has(data.id)"
        @pick="pick(data)"
        @fold="picture.fold(data.id)"
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
