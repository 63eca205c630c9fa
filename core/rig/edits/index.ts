import type { Rig } from '../types'
import * as accord from './accord'
import * as aside from './aside'
import * as cabling from './cabling'
import * as checklist from './checklist'
import * as controller from './controller'
import * as destination from './destination'
import type { EditKind } from './kit'
import * as light from './light'
import * as mapping from './mapping'
import * as message from './message'
import * as parameter from './parameter'
import * as passage from './passage'
import { recorded, type Step } from './patches'
import * as proof from './proof'
import * as settings from './settings'
import * as surface from './surface'
import * as template from './template'

export { EditError } from './edit-error'
export * from './patches'

/** Every change that can be made to a rig, as plain data. */
export type RigEdit =
  | accord.AccordAdd
  | accord.AccordRemove
  | accord.AccordSet
  | aside.AsideAdd
  | aside.AsideRemove
  | cabling.BoxAdd
  | cabling.BoxRemove
  | cabling.BoxSet
  | cabling.CableAdd
  | cabling.CableRemove
  | cabling.CableSet
  | cabling.ComputerAdd
  | cabling.ComputerRemove
  | cabling.ComputerSet
  | cabling.PortAdd
  | cabling.PortRemove
  | cabling.PortSet
  | checklist.StepSet
  | checklist.StepsClear
  | controller.ControllerAdd
  | controller.ControllerMove
  | controller.ControllerRemove
  | destination.DestinationAdd
  | destination.DestinationRemove
  | destination.DestinationSet
  | light.LightRoleAdd
  | light.LightRoleRemove
  | light.LightRoleSet
  | mapping.MappingAdd
  | mapping.MappingRemove
  | mapping.MappingSet
  | message.AssignmentEdit
  | message.AssignmentsEdit
  | message.MessageEdit
  | parameter.ParametersAdd
  | parameter.ParameterSet
  | parameter.ParametersRemove
  | passage.PassageAdd
  | passage.PassageMove
  | passage.PassageRemove
  | passage.PassageSet
  | proof.LineCheckSet
  | proof.RecipeRemove
  | proof.RecipeSet
  | proof.RehearsedSet
  | proof.SlotSet
  | settings.ControllerSet
  | settings.HearingSet
  | settings.RigSet
  | surface.AbilitiesSet
  | surface.BlockAdd
  | surface.BlockBreak
  | surface.BlockSet
  | surface.ControlsAdd
  | surface.ControlsRemove
  | surface.ControlsSet
  | surface.SurfaceSet
  | template.ChoiceAdd
  | template.ChoiceRemove
  | template.LayerAdd
  | template.LayerMove
  | template.LayerRemove
  | template.LayerSet
  | template.StackAdd
  | template.StackRemove
  | template.StackSet
  | template.TemplateAdd
  | template.TemplateMove
  | template.TemplateRemove
  | template.TemplateSet

const KINDS: { [T in RigEdit['type']]: EditKind<Extract<RigEdit, { type: T }>> } = {
  'abilities-set': surface.abilitiesSet,
  'accord-add': accord.accordAdd,
  'accord-remove': accord.accordRemove,
  'accord-set': accord.accordSet,
  'aside-add': aside.asideAdd,
  'aside-remove': aside.asideRemove,
  assignment: message.assignmentEdit,
  assignments: message.assignmentsEdit,
  'block-add': surface.blockAdd,
  'block-break': surface.blockBreak,
  'block-set': surface.blockSet,
  'box-add': cabling.boxAdd,
  'box-remove': cabling.boxRemove,
  'box-set': cabling.boxSet,
  'cable-add': cabling.cableAdd,
  'cable-remove': cabling.cableRemove,
  'cable-set': cabling.cableSet,
  'choice-add': template.choiceAdd,
  'choice-remove': template.choiceRemove,
  'computer-add': cabling.computerAdd,
  'computer-remove': cabling.computerRemove,
  'computer-set': cabling.computerSet,
  'controller-add': controller.controllerAdd,
  'controller-move': controller.controllerMove,
  'controller-remove': controller.controllerRemove,
  'controller-set': settings.controllerSet,
  'controls-add': surface.controlsAdd,
  'controls-remove': surface.controlsRemove,
  'controls-set': surface.controlsSet,
  'destination-add': destination.destinationAdd,
  'destination-remove': destination.destinationRemove,
  'destination-set': destination.destinationSet,
  'hearing-set': settings.hearingSet,
  'layer-add': template.layerAdd,
  'layer-move': template.layerMove,
  'layer-remove': template.layerRemove,
  'layer-set': template.layerSet,
  'light-role-add': light.lightRoleAdd,
  'light-role-remove': light.lightRoleRemove,
  'light-role-set': light.lightRoleSet,
  'line-check-set': proof.lineCheckSet,
  'mapping-add': mapping.mappingAdd,
  'mapping-remove': mapping.mappingRemove,
  'mapping-set': mapping.mappingSet,
  message: message.messageEdit,
  'parameter-set': parameter.parameterSet,
  'parameters-add': parameter.parametersAdd,
  'parameters-remove': parameter.parametersRemove,
  'passage-add': passage.passageAdd,
  'passage-move': passage.passageMove,
  'passage-remove': passage.passageRemove,
  'passage-set': passage.passageSet,
  'port-add': cabling.portAdd,
  'port-remove': cabling.portRemove,
  'port-set': cabling.portSet,
  'recipe-remove': proof.recipeRemove,
  'recipe-set': proof.recipeSet,
  'rehearsed-set': proof.rehearsedSet,
  'rig-set': settings.rigSet,
  'slot-set': proof.slotSet,
  'stack-add': template.stackAdd,
  'stack-remove': template.stackRemove,
  'stack-set': template.stackSet,
  'step-set': checklist.stepSet,
  'steps-clear': checklist.stepsClear,
  'surface-set': surface.surfaceSet,
  'template-add': template.templateAdd,
  'template-move': template.templateMove,
  'template-remove': template.templateRemove,
  'template-set': template.templateSet,
}

/**
 * Make edits in order, as one step. Gives the new rig and the step; throws an EditError, with the
 * rig unchanged, if any of them cannot be made.
 */
export function perform(rig: Rig, label: string, edits: readonly RigEdit[]): { rig: Rig; step: Step } {
  return recorded(rig, label, (draft) => {
    for (const edit of edits) {
      const kind = KINDS[edit.type] as EditKind<RigEdit>
      kind.apply(draft, edit)
    }
  })
}
