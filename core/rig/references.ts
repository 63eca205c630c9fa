import { cableRuleProblem } from './cable-rules'
import { hostProblem } from './host-problem'
import { mappingProblem, parameterProblem } from './mapping-problem'
import { printPath, type PathStep, type Problem } from './problems'
import { splitGestureRef } from './places'
import { leadsIn, leadsOut, portKey, portsOf, type PortDirection } from './ports'
import type { Controller, Destination, GestureRef, Id, Model, PortRef, Rig, Template } from './types'

type Report = (path: readonly PathStep[], message: string) => void
type Path = readonly PathStep[]

/** Report ids that stand twice in one list; give the list by id. */
function unique<T extends { id: Id }>(items: readonly T[], path: Path, report: Report): Map<Id, T> {
  const seen = new Map<Id, T>()
  items.forEach((item, index) => {
    if (seen.has(item.id)) report([...path, index, 'id'], `“${item.id}” stands here for the second time`)
    seen.set(item.id, item)
  })
  return seen
}

interface Context {
  rig: Rig
  report: Report
  models: Map<Id, Model>
  controllers: Map<Id, Controller>
  destinations: Map<Id, Destination>
  /** Gestures that each model's controls have, as `control.gesture`. */
  gestures: Map<Id, Set<string>>
}

const missing = (what: string, id: string): string => `names a ${what} that is not there: “${id}”`

function checkGesture(context: Context, ref: GestureRef, path: Path): void {
  const { controller: id, gesture } = splitGestureRef(ref)
  const controller = context.controllers.get(id)
  if (!controller) return context.report(path, missing('controller', id))
  if (!context.gestures.get(controller.model)?.has(gesture)) {
    context.report(path, missing('gesture', gesture))
  }
}

function checkModel(context: Context, model: Model, path: Path): void {
  const { report } = context
  const blocks = unique(model.surface.blocks, [...path, 'surface', 'blocks'], report)
  unique(model.surface.controls, [...path, 'surface', 'controls'], report)
  model.surface.controls.forEach((control, index) => {
    const at = [...path, 'surface', 'controls', index]
    if (control.block !== null && !blocks.has(control.block)) {
      report([...at, 'block'], missing('block', control.block))
    }
  })
}

function checkRecipes({ rig, report, models }: Context): void {
  unique(rig.recipes, ['recipes'], report)
  rig.recipes.forEach(({ model }, index) => {
    if (model !== null && !models.has(model))
      report(['recipes', index, 'model'], missing('kind of controller', model))
  })
}

function checkAssignments(
  context: Context,
  controller: Controller,
  assignments: Template['base'],
  path: Path,
): void {
  const known = context.gestures.get(controller.model)
  for (const [gesture, assignment] of Object.entries(assignments)) {
    if (!known?.has(gesture)) context.report([...path, gesture], missing('gesture', gesture))
    const { light } = assignment
    const role = context.rig.lightRoles.find(({ id }) => id === light?.role)
    if (light && !role) {
      context.report([...path, gesture, 'light', 'role'], missing('light role', light.role))
    }
    if (light?.setBy.kind === 'steady' && role) {
      const { state } = light.setBy
      if (!role.states.some(({ name }) => name === state))
        context.report([...path, gesture, 'light', 'setBy', 'state'], missing('state', state))
    }
  }
}

function checkTemplate(context: Context, controller: Controller, template: Template, path: Path): void {
  const { report } = context
  checkAssignments(context, controller, template.base, [...path, 'base'])
  unique(template.stacks, [...path, 'stacks'], report)
  const replacedBy = new Map<string, string>()
  const layerIds = new Set<Id>()
  template.stacks.forEach((stack, index) => {
    const at = [...path, 'stacks', index]
    const covered = new Set(stack.gestures)
    stack.gestures.forEach((gesture, position) => {
      const here = [...at, 'gestures', position]
      if (!context.gestures.get(controller.model)?.has(gesture)) report(here, missing('gesture', gesture))
      if (stack.mode !== 'replace') return
      const other = replacedBy.get(gesture)
      if (other !== undefined) report(here, `“${gesture}” is already replaced by the stack “${other}”`)
      replacedBy.set(gesture, stack.name)
      if (gesture in template.base) {
        report(
          [...path, 'base', gesture],
          `is covered by the stack “${stack.name}” and cannot stand in the base too`,
        )
      }
    })
    stack.layers.forEach((layer, position) => {
      const here = [...at, 'layers', position]
      if (layerIds.has(layer.id))
        report([...here, 'id'], `“${layer.id}” stands in this template for the second time`)
      layerIds.add(layer.id)
      checkAssignments(context, controller, layer.assignments, [...here, 'assignments'])
      for (const gesture of Object.keys(layer.assignments)) {
        if (!covered.has(gesture)) {
          report([...here, 'assignments', gesture], `is not among the gestures of the stack “${stack.name}”`)
        }
      }
    })
    if (stack.powerUp !== null && !stack.layers.some((layer) => layer.id === stack.powerUp)) {
      report([...at, 'powerUp'], missing('layer', stack.powerUp))
    }
  })
}

function checkController(context: Context, controller: Controller, path: Path): void {
  const { report } = context
  const model = context.models.get(controller.model)
  if (!model) return report([...path, 'model'], missing('model', controller.model))
  unique(controller.ports, [...path, 'ports'], report)
  const templates = unique(controller.templates, [...path, 'templates'], report)
  controller.templates.forEach((template, index) =>
    checkTemplate(context, controller, template, [...path, 'templates', index]),
  )
  const taken = new Set<number>()
  controller.slots.forEach((slot, index) => {
    const at = [...path, 'slots', index]
    if (taken.has(slot.number)) report([...at, 'number'], `slot ${slot.number} stands here twice`)
    taken.add(slot.number)
    if (slot.number > model.abilities.slots) {
      report([...at, 'number'], `${model.name} has ${model.abilities.slots} slots`)
    }
    if (slot.template !== null && !templates.has(slot.template)) {
      report([...at, 'template'], missing('template', slot.template))
    }
  })
}

function checkDestination(context: Context, destination: Destination, path: Path): void {
  const { report, rig } = context
  unique(destination.ports, [...path, 'ports'], report)
  unique(destination.scopes, [...path, 'scopes'], report)
  unique(destination.claims, [...path, 'claims'], report)
  const parameters = unique(destination.parameters, [...path, 'parameters'], report)
  const hosting = hostProblem(destination, context.destinations)
  if (hosting !== null) return report([...path, 'inside'], hosting)
  destination.claims.forEach((claim, index) => {
    const at = [...path, 'claims', index]
    claim.serves.forEach((id, position) => {
      if (!parameters.has(id)) report([...at, 'serves', position], missing('parameter', id))
    })
  })
  destination.parameters.forEach((parameter, index) => {
    const problem = parameterProblem(parameter)
    if (problem !== null) report([...path, 'parameters', index], problem)
    const scope = parameter.switchesTo
    if (scope !== null && !destination.scopes.some((candidate) => candidate.id === scope)) {
      report([...path, 'parameters', index, 'switchesTo'], missing('scope', scope))
    }
  })
  destination.ports.forEach((port, index) => {
    if (port.opens === null) return
    const { computer: id, port: portId } = port.opens
    const computer = rig.computers.find((candidate) => candidate.id === id)
    if (!computer?.ports.some((candidate) => candidate.id === portId)) {
      report([...path, 'ports', index, 'opens'], missing('computer port', `${id}/${portId}`))
    }
  })
  const unit = destination.unit?.controller
  if (unit !== undefined && !context.controllers.has(unit)) {
    report([...path, 'unit', 'controller'], missing('controller', unit))
  }
}

function checkCables({ rig, report }: Context): void {
  const directions = new Map(portsOf(rig).map(({ ref, direction }) => [portKey(ref), direction]))
  const end = (
    ref: PortRef,
    isRight: (direction: PortDirection) => boolean,
    words: string,
    path: Path,
  ): void => {
    const direction = directions.get(portKey(ref))
    if (direction === undefined) report(path, missing('port', portKey(ref)))
    else if (!isRight(direction)) report(path, `must be ${words}`)
  }
  rig.cables.forEach((cable, index) => {
    end(cable.from, leadsOut, 'an out or a thru', ['cables', index, 'from'])
    end(cable.to, leadsIn, 'an in', ['cables', index, 'to'])
    cable.rules.forEach((rule, position) => {
      const problem = cableRuleProblem(rule)
      if (problem !== null) report(['cables', index, 'rules', position], problem)
    })
  })
}

function checkMappings(context: Context): void {
  const { rig, report } = context
  const parameters = new Map(
    rig.destinations.map((destination) => [
      destination.id,
      new Map(destination.parameters.map((parameter) => [parameter.id, parameter])),
    ]),
  )
  rig.mappings.forEach((mapping, index) => {
    const at = ['mappings', index]
    const destination = context.destinations.get(mapping.destination)
    if (!destination) return report([...at, 'destination'], missing('destination', mapping.destination))
    const parameter = parameters.get(destination.id)?.get(mapping.parameter)
    if (!parameter) report([...at, 'parameter'], missing('parameter', mapping.parameter))
    const problem = parameter ? mappingProblem(mapping, parameter) : null
    if (problem !== null) report(at, problem)
    if (mapping.scope !== null && !destination.scopes.some((scope) => scope.id === mapping.scope)) {
      report([...at, 'scope'], missing('scope', mapping.scope))
    }
    if (mapping.gesture !== null) checkGesture(context, mapping.gesture, [...at, 'gesture'])
  })
}

function checkShowing(
  context: Context,
  shown: { controller: Id; template: Id },
  layers: ReadonlyArray<{ stack: Id; layer: Id | null }>,
  path: Path,
): void {
  const controller = context.controllers.get(shown.controller)
  if (!controller) return context.report([...path, 'controller'], missing('controller', shown.controller))
  const template = controller.templates.find((candidate) => candidate.id === shown.template)
  if (!template) return context.report([...path, 'template'], missing('template', shown.template))
  layers.forEach(({ stack: stackId, layer }) => {
    const stack = template.stacks.find((candidate) => candidate.id === stackId)
    if (!stack) return context.report([...path, 'layers'], missing('stack', stackId))
    if (layer !== null && !stack.layers.some((candidate) => candidate.id === layer)) {
      context.report([...path, 'layers'], missing('layer', layer))
    }
  })
}

function checkChoices(context: Context): void {
  context.rig.choices.forEach((choice, index) => {
    const at = ['choices', index]
    if (choice.by.kind === 'gesture') checkGesture(context, choice.by.gesture, [...at, 'by', 'gesture'])
    else if (!context.controllers.has(choice.by.controller)) {
      context.report([...at, 'by', 'controller'], missing('controller', choice.by.controller))
    }
    choice.targets.forEach((target, position) => {
      const layers =
        target.kind === 'layers' ? target.layers.map((layer) => ({ stack: target.stack, layer })) : []
      checkShowing(context, target, layers, [...at, 'targets', position])
    })
  })
}

function checkAgreements(context: Context): void {
  const { rig, report } = context
  rig.accords.forEach((accord, index) =>
    accord.gestures.forEach((ref, position) =>
      checkGesture(context, ref, ['accords', index, 'gestures', position]),
    ),
  )
  rig.passages.forEach((passage, index) => {
    passage.showing.forEach((shown, position) =>
      checkShowing(context, shown, shown.layers, ['passages', index, 'showing', position]),
    )
    passage.scopes.forEach(({ destination: id, scope }, position) => {
      const at = ['passages', index, 'scopes', position]
      const destination = context.destinations.get(id)
      if (!destination) report(at, missing('destination', id))
      else if (scope !== null && !destination.scopes.some((candidate) => candidate.id === scope)) {
        report(at, missing('scope', scope))
      }
    })
  })
  rig.houseRules.forEach((rule, index) => {
    const at = ['houseRules', index]
    if (rule.controller === null) return
    const controller = context.controllers.get(rule.controller)
    if (!controller) return report([...at, 'controller'], missing('controller', rule.controller))
    const blocks = context.models.get(controller.model)?.surface.blocks ?? []
    if (rule.block !== null && !blocks.some((block) => block.id === rule.block)) {
      report([...at, 'block'], missing('block', rule.block))
    }
  })
}

/** A problem with its place as steps. */
export interface ReferenceFault {
  path: readonly PathStep[]
  message: string
}

/** As `referenceFaults`, for people. */
export const referenceProblems = (rig: Rig, limit?: number): Problem[] =>
  referenceFaults(rig, limit).map(({ path, message }) => ({ path: printPath(path), message }))

/**
 * Check everything in a rig that one schema cannot see: ids used once, references that lead
 * somewhere, no gesture in two replacing stacks. Gives at most `limit` problems.
 */
export function referenceFaults(rig: Rig, limit = 20): ReferenceFault[] {
  const problems: ReferenceFault[] = []
  const report: Report = (path, message) => {
    if (problems.length < limit) problems.push({ path, message })
  }
  const context: Context = {
    rig,
    report,
    models: unique(rig.models, ['models'], report),
    controllers: unique(rig.controllers, ['controllers'], report),
    destinations: unique(rig.destinations, ['destinations'], report),
    gestures: new Map(
      rig.models.map((model) => [
        model.id,
        new Set(
          model.surface.controls.flatMap((control) =>
            control.gestures.map((gesture) => `${control.id}.${gesture}`),
          ),
        ),
      ]),
    ),
  }
  const owners = new Set<Id>()
  for (const list of ['controllers', 'destinations', 'boxes', 'computers'] as const) {
    rig[list].forEach(({ id }, index) => {
      const path = printPath([list, index, 'id'])
      if (owners.has(id) && !problems.some((each) => printPath(each.path) === path)) {
        report([list, index, 'id'], `“${id}” already names something else with ports`)
      }
      owners.add(id)
    })
  }
  for (const list of [
    'cables',
    'mappings',
    'choices',
    'accords',
    'lightRoles',
    'passages',
    'houseRules',
  ] as const) {
    unique<{ id: Id }>(rig[list], [list], report)
  }
  rig.boxes.forEach((box, index) => unique(box.ports, ['boxes', index, 'ports'], report))
  rig.computers.forEach((computer, index) => unique(computer.ports, ['computers', index, 'ports'], report))
  rig.models.forEach((model, index) => checkModel(context, model, ['models', index]))
  rig.controllers.forEach((controller, index) => checkController(context, controller, ['controllers', index]))
  rig.destinations.forEach((destination, index) =>
    checkDestination(context, destination, ['destinations', index]),
  )
  checkRecipes(context)
  checkCables(context)
  checkMappings(context)
  checkChoices(context)
  checkAgreements(context)
  return problems
}
