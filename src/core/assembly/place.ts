/** Where the components of an assembly stand: its mates, with what they hold on to and what their values are, solved. */
import { findRecord, listRecords, matePlaces, type Component, type DocumentValues, plainId } from '../document';
import { Instances, relativeTo, type Stance, type Standing } from '../instances';
import { standCopies } from './copies';
import { ASSEMBLY, gather, type GatherOptions, type MateOutcome, type RigidStances, type StartAt, type ShapeSource, type WantedShape } from './gather';
import { freeMotions, type FreeMotion } from './free-motions';
import { measuresOf } from './measures';
import { NONE_YIELDING, type Placements, type Pull, type Yielding } from './model';
import { solvePlacements } from './solve';

export interface AssemblyPlacement extends Pick<Placements, 'freedom' | 'degreesOfFreedom' | 'status' | 'turned'> {
  /** By component, and by the paths of those in flexible sub-assemblies, joined with spaces: where it stands. Those without a place are not there. */
  readonly stances: ReadonlyMap<string, Stance>;
  readonly standing: Standing;
  readonly mates: ReadonlyMap<string, MateOutcome>;
  /** Equations that add nothing to those before them, of what was looked at so far: where sizes are a little off they are the ones to give way. */
  readonly dependent: () => Yielding;
  /** By how much those are off that were to give way. */
  readonly misfits: () => Placements['misfits'];
  /** By the paths of bodies that can move: in which ways. */
  readonly motions: () => ReadonlyMap<string, readonly FreeMotion[]>;
}

const NOWHERE: StartAt = { stances: new Map(), turned: new Map() };

export interface PlaceOptions {
  readonly startAt?: StartAt;
  readonly yielding?: Yielding;
  /** Drags a component as far as the mates let it. */
  readonly pull?: Pull | undefined;
}

export function placeComponents(
  values: DocumentValues,
  shapes: ShapeSource,
  { startAt = NOWHERE, pull, yielding = NONE_YIELDING }: PlaceOptions = {},
): AssemblyPlacement {
  const rigid = new RigidPlacements(shapes, yielding.inside);
  const { solved, gathered, ...placed } = place(values, shapes, { startAt, rigid: rigid.stances, yielding: yielding.own }, pull);
  return {
    ...placed,
    // Sub-assemblies are solved as they are looked at.
    dependent: () => ({ own: solved.dependent, inside: rigid.dependent() }),
    misfits: () => new Map([...solved.misfits, ...rigid.misfits()]),
    motions: () =>
      freeMotions(
        gathered.bodies.map((body) => ({ ...body, at: solved.stances.get(body.id) ?? body.at })),
        gathered.mates,
      ),
  };
}

function place(values: DocumentValues, shapes: ShapeSource, options: GatherOptions, pull?: Pull) {
  const gathered = gather(values, shapes, options);
  const solved = solvePlacements(gathered.bodies, gathered.mates, pull);
  const outcomes = new Map(gathered.outcomes);
  for (const { id, first, second } of gathered.mates) {
    if (!findRecord(values.document, id, 'mate')) continue;
    const bothRun = first.geometry.kind === second.geometry.kind;
    if (solved.conflicting.includes(id)) outcomes.set(id, { status: 'conflicting', message: conflictWords(solved.conflicting, id, values), bothRun });
    else if (solved.redundant.includes(id)) outcomes.set(id, { status: 'redundant', message: 'Earlier mates already hold this.', bothRun });
    else if (solved.status === 'not-converged') outcomes.set(id, { status: 'failed', message: 'No placement was found.', bothRun });
    else outcomes.set(id, { status: 'holds', bothRun });
  }
  const stances = new Map([...solved.stances].filter(([id]) => id !== ASSEMBLY));
  const { status, freedom, degreesOfFreedom, turned } = solved;
  const standing = standingIn(values, stances, shapes, options.rigid);
  return { solved, gathered, stances, standing, mates: outcomes, status, freedom, degreesOfFreedom, turned };
}

function conflictWords(conflicting: readonly string[], id: string, values: DocumentValues): string {
  const others = conflicting.flatMap((other) => {
    if (other === id) return [];
    const [mate, ...above] = other.split(' ').reverse();
    const inside = above.length === 0 ? findRecord(values.document, mate ?? '', 'mate')?.name : undefined;
    return inside ?? `a mate inside ${findRecord(values.document, other.replace('fixed ', '').split(' ', 1)[0] ?? '', 'component')?.name ?? 'a sub-assembly'}`;
  });
  return `This mate conflicts with ${[...new Set(others)].join(', ')}.`;
}

/** Where everything stands, down through sub-assemblies, copies too, from where the solver has put the bodies. */
export function standingIn(
  values: DocumentValues,
  stances: ReadonlyMap<string, Stance>,
  shapes: ShapeSource,
  rigid: RigidStances = new RigidPlacements(shapes).stances,
): Standing {
  const known = new Map<string, ReadonlyMap<string, Stance>>();
  const standing: Standing = (inside, path) => {
    const prefix = path.map(plainId).join(' ');
    const found = known.get(prefix);
    if (found) return found;
    const around = stances.get(prefix);
    const own = new Map<string, Stance>();
    for (const id of inside.document.lists['components'] ?? []) {
      const stance = stances.get(prefix === '' ? id : `${prefix} ${id}`);
      if (stance) own.set(id, around ? relativeTo(around, stance) : stance);
    }
    if (own.size === 0 && inside !== values) {
      const still = rigid(inside);
      known.set(prefix, still);
      return still;
    }
    known.set(prefix, own);
    for (const component of repeated(inside)) {
      const first = own.get(component.id);
      const within: Standing = (below, from) => standing(below, [...path, ...from]);
      for (const [id, stance] of first ? standCopies(inside, component, first, { standing: within, shapes }) : []) own.set(id, stance);
    }
    return own;
  };
  return standing;
}

function repeated({ document }: DocumentValues): Component[] {
  return listRecords(document, 'components', 'component').filter(({ pattern, at }) => pattern !== undefined && at !== undefined);
}

/** Sub-assemblies as they stand by themselves, each solved once. */
export class RigidPlacements {
  private readonly known = new Map<DocumentValues, { readonly solved: Placements; readonly stances: ReadonlyMap<string, Stance> }>();

  constructor(
    private readonly shapes: ShapeSource,
    private readonly yielding: Yielding['inside'] = NONE_YIELDING.inside,
  ) {}

  readonly stances: RigidStances = (inside) => {
    const known = this.known.get(inside);
    if (known) return known.stances;
    const yielding = this.yielding.get(inside.document.id) ?? NONE_YIELDING.own;
    const { solved, standing } = place(inside, this.shapes, { startAt: NOWHERE, rigid: this.stances, yielding });
    const stances = standing(inside, []);
    this.known.set(inside, { solved, stances });
    return stances;
  };

  /** By document. */
  dependent(): Yielding['inside'] {
    return new Map([...this.known].map(([{ document }, { solved }]) => [document.id, solved.dependent] as const));
  }

  /** By document and mate, joined with a space. */
  misfits(): Placements['misfits'] {
    return new Map(
      [...this.known].flatMap(([{ document }, { solved }]) => [...solved.misfits].map(([mate, misfit]) => [`${document.id} ${mate}`, misfit] as const)),
    );
  }
}

/** Faces and edges that the mates, the measured values and the copies of an assembly, and of its sub-assemblies, hold on to. */
export function listWanted(values: DocumentValues): WantedShape[] {
  const wanted = new Map<string, WantedShape>();
  const seen = new Set<DocumentValues>();
  const visit = (inside: DocumentValues): void => {
    const { components, document } = inside;
    if (!(components instanceof Instances) || seen.has(inside)) return;
    seen.add(inside);
    const mated = listRecords(document, 'mates', 'mate').flatMap(matePlaces);
    const measured = measuresOf(document).flatMap(({ measure }) => ('on' in measure ? measure.on : []));
    const followed = listRecords(document, 'components', 'component').flatMap(({ pattern }) => (pattern && pattern.form !== 'followed' ? pattern.along : []));
    for (const reference of [...mated, ...measured, ...followed]) {
      if (!('body' in reference) || reference.body === undefined || reference.name === undefined) continue;
      const { path, body, name } = reference;
      const key = keyAt(components, path);
      if (key !== undefined) wanted.set(`${key} ${body} ${name}`, { key, body, name });
    }
    for (const component of listRecords(document, 'components', 'component')) {
      const below = component.at === undefined ? undefined : components.find(component.id)?.values;
      if (below?.document.kind === 'assembly') visit(below);
    }
  };
  visit(values);
  return [...wanted.values()];
}

function keyAt(components: Instances, [first = '', ...rest]: readonly string[]): string | undefined {
  let instance = components.find(plainId(first));
  for (const id of rest) {
    const inner = instance?.values?.components;
    instance = inner instanceof Instances ? inner.find(plainId(id)) : undefined;
  }
  return instance?.values ? instance.key : undefined;
}
