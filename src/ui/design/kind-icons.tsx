/** Small pictures of kinds of documents and steps, always beside the word: a standard set, of one stroke weight. */
import {
  ArrowUpFromLine,
  Blend,
  Box,
  Boxes,
  CircleDot,
  Cone,
  FileInput,
  FlipHorizontal2,
  Grid3x3,
  Move3d,
  Package,
  PencilLine,
  Puzzle,
  Radius,
  Route,
  Sigma,
  Slice,
  SlidersHorizontal,
  SquareDashed,
  SquaresUnite,
  Torus,
  TriangleRight,
  type LucideIcon,
} from 'lucide-react';
import type { Document, StepType } from '@/core/document';

const DOCUMENTS: Readonly<Record<Document['kind'], LucideIcon>> = { master: SlidersHorizontal, part: Package, assembly: Boxes, calc: Sigma };

const STEPS: Readonly<Record<StepType, LucideIcon>> = {
  sketch: PencilLine,
  datum: SquareDashed,
  extrude: ArrowUpFromLine,
  revolve: Torus,
  sweep: Route,
  loft: Blend,
  import: FileInput,
  'from-part': Puzzle,
  hole: CircleDot,
  fillet: Radius,
  chamfer: TriangleRight,
  shell: Box,
  draft: Cone,
  pattern: Grid3x3,
  mirror: FlipHorizontal2,
  combine: SquaresUnite,
  split: Slice,
  place: Move3d,
};

export function DocumentIcon({ kind }: { readonly kind: Document['kind'] }) {
  return drawn(DOCUMENTS[kind]);
}

export function StepIcon({ type }: { readonly type: StepType }) {
  return drawn(STEPS[type]);
}

function drawn(Icon: LucideIcon) {
  return <Icon aria-hidden size={15} strokeWidth={1.6} className="mr-1.5 inline shrink-0 align-[-2px] text-walnut-soft" />;
}
