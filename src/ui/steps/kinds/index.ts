/** The forms of all kinds of steps, in the order in which menus have them. */
import { STEP_TYPES, type Step, type StepOf, type StepType } from '@/core/document';
import { chamfer } from './chamfer';
import { combine } from './combine';
import { datum } from './datum';
import { draft } from './draft';
import { extrude } from './extrude';
import { fillet } from './fillet';
import { fromPart } from './from-part';
import { hole } from './hole';
import { importedBody } from './import';
import { loft } from './loft';
import { mirror } from './mirror';
import { pattern } from './pattern';
import { place } from './place';
import { revolve } from './revolve';
import { shell } from './shell';
import { sketch } from './sketch';
import { split } from './split';
import { sweep } from './sweep';
import { GROUPS, type StepForm } from './form';

const FORMS: { readonly [T in StepType]: StepForm<StepOf<T>> } = {
  sketch,
  datum,
  extrude,
  revolve,
  sweep,
  loft,
  hole,
  'from-part': fromPart,
  import: importedBody,
  fillet,
  chamfer,
  shell,
  draft,
  pattern,
  mirror,
  place,
  combine,
  split,
};

export function formOf(type: StepType): StepForm<Step> {
  return FORMS[type];
}

export interface StepOffer extends Pick<StepForm<Step>, 'label' | 'needs'> {
  readonly type: StepType;
}

const ALL: readonly (StepOffer & Pick<StepForm<Step>, 'group'>)[] = STEP_TYPES.map((type) => ({ type, ...formOf(type) }));

/** By what they need, so that the list reads as the order of work. */
export const STEP_OFFERS: readonly (readonly StepOffer[])[] = GROUPS.map((group) => ALL.filter((offer) => offer.group === group));
