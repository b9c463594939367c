/** The builders of all features, by kind. */
import type { Feature } from '../../document';
import type { Buildable, BuildContext, BuiltStep } from './context';
import { buildCombine, buildMirror, buildPattern, buildPlace } from './copies';
import { buildChamfer, buildDraft, buildFillet, buildShell } from './dress';
import { buildFromPart, buildImport, buildLoft, buildSplit, buildSweep } from './drawn';
import { buildHole } from './hole';
import { buildExtrude, buildRevolve } from './solids';

export function buildFeature(context: BuildContext, step: Feature): Buildable<BuiltStep> {
  switch (step.type) {
    case 'extrude':
      return buildExtrude(context, step);
    case 'revolve':
      return buildRevolve(context, step);
    case 'hole':
      return buildHole(context, step);
    case 'fillet':
      return buildFillet(context, step);
    case 'chamfer':
      return buildChamfer(context, step);
    case 'shell':
      return buildShell(context, step);
    case 'draft':
      return buildDraft(context, step);
    case 'pattern':
      return buildPattern(context, step);
    case 'mirror':
      return buildMirror(context, step);
    case 'combine':
      return buildCombine(context, step);
    case 'sweep':
      return buildSweep(context, step);
    case 'loft':
      return buildLoft(context, step);
    case 'split':
      return buildSplit(context, step);
    case 'import':
      return buildImport(context, step);
    case 'from-part':
      return buildFromPart(context, step);
    case 'place':
      return buildPlace(context, step);
  }
}
