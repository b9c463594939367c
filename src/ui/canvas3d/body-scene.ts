/**
 * The bodies of the picture, kept from one state to the next: only what is another is made anew. Equal bodies share their buffers, and those
 * that look alike are drawn at once.
 */
import { Box3, Group, Mesh, type Material, type Object3D, type Plane } from 'three';
import { BodyFigure, NOTHING_LIT, SEEN_EDGES, type Colours, type EdgeStyle, type Lit } from './body-figure';
import type { PickData } from './picking';
import { Shapes } from './shapes';
import type { ShownBody } from '../state/shown-body';

export class BodyScene {
  readonly group = new Group();
  /** Objects that were made since the beginning. */
  made = 0;
  private readonly shapes = new Shapes();
  private readonly figures = new Map<string, { readonly key: string; readonly figure: BodyFigure }>();
  private shown: readonly ShownBody[] = [];
  private lit = NOTHING_LIT;
  private clipping: readonly Plane[] = [];
  private edges = SEEN_EDGES;

  constructor(private colours: Colours) {}

  show(bodies: readonly ShownBody[]): void {
    this.shown = bodies;
    const wanted = new Map<string, ShownBody[]>();
    for (const body of bodies) {
      const alike = [body.key, body.look, body.colour ?? '', body.side ?? ''].join(' ');
      wanted.set(alike, [...(wanted.get(alike) ?? []), body]);
    }
    const old = [...this.figures].filter(([alike, { figure }]) => !areSame(wanted.get(alike), figure.bodies));
    for (const [alike] of old) this.figures.delete(alike);
    for (const [alike, alikes] of wanted) {
      const [first] = alikes;
      if (!first || this.figures.has(alike)) continue;
      const figure = new BodyFigure(this.shapes.take(first.key, first.mesh), alikes, this.colours, this.clipping, this.edges);
      figure.light(this.lit);
      this.figures.set(alike, { key: first.key, figure });
    }
    // Last, for what stands elsewhere or looks another way now has the same buffers.
    for (const [, { key, figure }] of old) {
      figure.dispose();
      this.shapes.release(key);
    }
    this.settle();
  }

  /** Lights faces and edges of those names, and nothing else. */
  highlight(lit: Lit): void {
    this.lit = lit;
    for (const { figure } of this.figures.values()) figure.light(lit);
    this.settle();
  }

  /** Cuts everything by a plane; undefined for nothing cut. */
  cut(plane: Plane | undefined): void {
    const [known] = this.clipping;
    if (known && plane) {
      known.copy(plane);
      for (const { figure } of this.figures.values()) figure.moveCut();
      return;
    }
    this.clipping = plane ? [plane] : [];
    for (const { figure } of this.figures.values()) figure.cut(this.clipping);
    this.settle();
  }

  drawEdges(style: EdgeStyle): void {
    this.edges = style;
    for (const { figure } of this.figures.values()) figure.drawEdges(style);
    this.settle();
  }

  recolour(colours: Colours): void {
    this.colours = colours;
    const { shown } = this;
    this.show([]);
    this.show(shown);
  }

  /** What is shown, as it was told. */
  get bodies(): readonly ShownBody[] {
    return this.shown;
  }

  /** Surfaces that nothing is seen through. */
  get surfaces(): ReadonlySet<Object3D> {
    return new Set(
      this.group.children.filter((child) => child instanceof Mesh && child.visible && 'faces' in child.userData && !(child.material as Material).transparent),
    );
  }

  /** The box around everything that is seen or picked, or around one body; empty where nothing is. */
  box(body?: string): Box3 {
    const box = new Box3();
    for (const child of this.group.children) {
      const { bodies } = child.userData as Partial<PickData>;
      // Of equal bodies, the lines of each are an object of their own.
      if (bodies && (body === undefined || (bodies.length === 1 && bodies[0] === body))) box.expandByObject(child);
    }
    return box;
  }

  /** What it costs: objects that are drawn, and bytes of buffers that were made since the beginning. */
  get cost(): { readonly draws: number; readonly bytes: number; readonly shapes: number } {
    return { draws: this.group.children.filter(({ visible }) => visible).length, bytes: this.shapes.bytes, shapes: this.shapes.count };
  }

  /** The group holds what the figures hold. */
  private settle(): void {
    const wanted = new Set<Object3D>();
    for (const { figure } of this.figures.values()) {
      this.made += figure.made;
      figure.made = 0;
      for (const object of figure.objects) wanted.add(object);
    }
    for (const child of [...this.group.children]) if (!wanted.has(child)) this.group.remove(child);
    const there = new Set(this.group.children);
    for (const object of wanted) if (!there.has(object)) this.group.add(object);
  }
}

function areSame(wanted: readonly ShownBody[] | undefined, shown: readonly ShownBody[]): boolean {
  return (
    wanted?.length === shown.length && wanted.every(({ body, place }, i) => body === shown[i]?.body && (place ?? []).join() === (shown[i]?.place ?? []).join())
  );
}
