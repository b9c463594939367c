/** The builders of all features, by kind. */
import type { Feature, StepOf } from '../../document';
import type { Buildable, BuildContext, BuiltStep } from './context';
import { buildCombine, buildMirror, buildPattern, buildPlace } from './copies';
import { buildChamfer, buildDraft, buildFillet, buildShell } from './dress';
import { buildFromPart, buildImport, buildLoft, buildSplit, buildSweep } from './drawn';
import { buildHole } from './hole';
import { buildExtrude, buildRevolve } from './solids';

interface Builder<S extends Feature> {
  build(context: BuildContext, step: S): Buildable<BuiltStep>;
}

const BUILDERS: { readonly [T in Feature['type']]: Builder<StepOf<T>> } = {
  extrude: { build: buildExtrude },
  revolve: { build: buildRevolve },
  sweep: { build: buildSweep },
  loft: { build: buildLoft },
  hole: { build: buildHole },
  'from-part': { build: buildFromPart },
  import: { build: buildImport },
  fillet: { build: buildFillet },
  chamfer: { build: buildChamfer },
  shell: { build: buildShell },
  draft: { build: buildDraft },
  pattern: { build: buildPattern },
  mirror: { build: buildMirror },
  place: { build: buildPlace },
  combine: { build: buildCombine },
  split: { build: buildSplit },
};

export function buildFeature(context: BuildContext, step: Feature): Buildable<BuiltStep> {
  const builder: Builder<Feature> = BUILDERS[step.type];
  return builder.build(context, step);
}
