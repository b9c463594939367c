/** The demo's parts as their driving values run through their ranges: nothing fails, and volumes are those of closed forms. */
import type { Document } from '@/core/document';
import { headsOf, openValues } from '@/core/instances';
import type { KernelPort } from '@/core/kernel-port';
import { applySetting, catchUpProject } from '@/core/links';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { demoDocuments } from '../support/demo';
import { relative } from '../support/kernel-shapes';

let regenerator: Regenerator;
beforeAll(async () => {
  const kernel: KernelPort = await createKernel();
  regenerator = new Regenerator(kernel);
});

/** The demo with a driving value of its master set, caught up. */
function demoWith(...settings: readonly string[]): readonly Document[] {
  let documents = demoDocuments();
  for (const setting of settings) {
    const result = applySetting(documents, `Loom sizes.${setting}`);
    if (!result.ok) throw new Error(result.failure.message);
    documents = result.documents;
  }
  return catchUpProject(documents).documents;
}

function regenerate(documents: readonly Document[], name: string) {
  const document = documents.find((candidate) => candidate.name === name);
  if (!document) throw new Error(`no document ${name}`);
  const result = regenerator.regenerate(document, openValues(document, headsOf(documents)));
  expect(result.steps.flatMap(({ problem }) => problem?.message ?? [])).toEqual([]);
  const [body] = result.bodies;
  return body?.properties?.volume ?? NaN;
}

/**
 * The wheel in polar coordinates: over one pitch its edge runs along the back of a notch, from the root to the rim, and then along the
 * rim. Areas by Simpson's rule.
 */
function wheelVolume(teeth: number, screw: number): number {
  const [rim, bore, stock] = [54, 22.5, 18];
  const pitch = (2 * Math.PI) / teeth;
  const [root, over, rise] = [rim - (rim * Math.PI) / teeth, rim + 1, rim * Math.sin(pitch)];
  // The back of the notch is the line from (root, 0) to (over, rise).
  const edge = (angle: number): number => {
    const turn = ((angle % pitch) + pitch) % pitch;
    const below = rise * Math.cos(turn) - (over - root) * Math.sin(turn);
    return below > 0 ? Math.min(rim, (root * rise) / below) : rim;
  };
  const simpson = (of: (x: number) => number, from: number, to: number, parts: number): number => {
    const step = (to - from) / parts;
    let sum = of(from) + of(to);
    for (let i = 1; i < parts; i++) sum += (i % 2 === 1 ? 4 : 2) * of(from + i * step);
    return (sum * step) / 3;
  };
  // Up to the angle at which the back meets the rim, where the edge has its corner.
  let meets = pitch;
  for (let low = 0, high = pitch, i = 0; i < 60; i++) {
    meets = (low + high) / 2;
    const below = rise * Math.cos(meets) - (over - root) * Math.sin(meets);
    if (below > 0 && (root * rise) / below < rim) low = meets;
    else high = meets;
  }
  const notch = simpson((angle) => (rim ** 2 - edge(angle) ** 2) / 2, 0, Math.min(meets, pitch) * (1 - 1e-12), 2000);
  // The set screw goes straight up from the bore; what it takes is what there is of the wheel above each point of its section.
  const length = (across: number): number => {
    const steps = 4000;
    let inside = 0;
    for (let i = 0; i < steps; i++) {
      const up = ((i + 0.5) * rim) / steps;
      const radius = Math.hypot(across, up);
      if (radius > bore && radius < edge(Math.atan2(up, across))) inside += rim / steps;
    }
    return inside;
  };
  const hole = simpson((across) => 2 * Math.sqrt(Math.max((screw / 2) ** 2 - across ** 2, 0)) * length(across), -screw / 2, screw / 2, 200);
  return (Math.PI * (rim ** 2 - bore ** 2) - teeth * notch) * stock - hole;
}

test.each([8, 12, 48])('the ratchet wheel with %d teeth', (teeth) => {
  const volume = regenerate(demoWith(`teeth=${teeth}`), 'Ratchet wheel');
  expect(Math.abs(volume / wheelVolume(teeth, 6.6) - 1)).toBeLessThan(1e-4);
});

test.each(['30 mm', '45 mm', '60 mm'])('the ratchet wheel on a beam of %s', (dia) => {
  regenerate(demoWith(`beam_dia=${dia}`), 'Ratchet wheel');
});

test.each(['12 mm', '15 mm', '18 mm', '21 mm'])('every part with a frame of %s', (stock) => {
  const documents = demoWith(`frame_stock=${stock}`);
  for (const { name, kind } of documents) if (kind === 'part' && name !== 'Reed') regenerate(documents, name);
});

// The kernel integrates over round holes across a round bar numerically, to about 2e-6 of the whole.
test.each([250, 400, 600])('the warp beam for %d mm of cloth: its barrel and journals, less chamfers and tie holes', (width) => {
  const volume = regenerate(demoWith(`weaving_width=${width} mm`), 'Warp beam');
  const inner = width + 24;
  const ties = Math.floor(width / 50) + 1;
  const cylinder = (radius: number, length: number): number => Math.PI * radius ** 2 * length;
  // A chamfer of c on a rim of radius r: a triangle of c²/2 whose centroid runs at r - c/3 (Pappus).
  const chamfer = 2 * Math.PI * (22.5 - 2 / 3) * 2;
  // A hole across a round bar: the integral of 2 sqrt(R² - x²) over its circle of radius a.
  const [R, a, n] = [28.5, 2.5, 2000];
  let hole = 0;
  for (let i = 0; i < n; i++) {
    const x = a * Math.sin(((i + 0.5) / n - 0.5) * Math.PI);
    hole += 4 * Math.sqrt(R * R - x * x) * (a * a - x * x) * (Math.PI / n);
  }
  const expected = cylinder(28.5, inner) + 2 * cylinder(22.5, 36) - 2 * chamfer - ties * hole;
  expect(relative(volume, expected)).toBeLessThan(1e-5);
});

test('the reed with its 160 dents, and as narrow and wide as the loom gets', () => {
  for (const width of [250, 400, 600]) {
    const dents = Math.floor(width * 0.4);
    const volume = regenerate(demoWith(`weaving_width=${width} mm`), 'Reed');
    expect(relative(volume, ((width + 30) * 100 - dents * 1.5 * 70) * 3)).toBeLessThan(1e-9);
  }
});

test.each([12, 15, 18, 21])('the side frame %d mm thick: board less mortise, bearing, corners, screws and slot', (stock) => {
  const volume = regenerate(demoWith(`frame_stock=${stock} mm`), 'Side frame');
  const round = (2 / 3) * stock;
  const area = 360 * 260 - (2 * stock) ** 2 - (Math.PI * 45.4 ** 2) / 4 - (4 - Math.PI) * round ** 2 - 2 * Math.PI * 3.3 ** 2 - 40 * 8;
  expect(relative(volume, area * stock)).toBeLessThan(1e-9);
});
