import { PNG } from 'pngjs';
import type { BodyMesh } from '@/core/kernel-port';
import { drawThumbnail } from './thumbnail';

/** A square of 10 mm facing up, at a height. */
function square(height: number, size = 10): BodyMesh {
  const corners = [
    [0, 0],
    [size, 0],
    [size, size],
    [0, size],
  ];
  return {
    positions: Float32Array.from(corners.flatMap(([x = 0, y = 0]) => [x, y, height])),
    normals: Float32Array.from(corners.flatMap(() => [0, 0, 1])),
    indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
    faces: [{ name: 'top', start: 0, count: 6 }],
    corners: [],
    edgePoints: new Float32Array(),
    edges: [],
  };
}

function pixel(bytes: Buffer | undefined, x: number, y: number): number[] {
  const image = PNG.sync.read(bytes ?? Buffer.of());
  return [...image.data.subarray(4 * (y * image.width + x), 4 * (y * image.width + x) + 4)];
}

test('what is nearer hides what is behind it, whatever is drawn first', () => {
  const bodies = [
    { mesh: square(5), colour: '#ff0000' },
    { mesh: square(0), colour: '#0000ff' },
  ];
  for (const order of [bodies, [...bodies].reverse()]) {
    const [red = 0, , blue = 0, opacity] = pixel(drawThumbnail(order), 120, 60);
    expect(red).toBeGreaterThan(150);
    expect(blue).toBe(0);
    expect(opacity).toBe(255);
  }
});

test('the picture is as large as it should be, and clear around the part', () => {
  const bytes = drawThumbnail([{ mesh: square(0), colour: '#808080' }]);
  const { width, height } = PNG.sync.read(bytes ?? Buffer.of());
  expect([width, height]).toEqual([240, 160]);
  expect(pixel(bytes, 1, 1)[3]).toBe(0);
});

test('of nothing there is no picture', () => {
  expect(drawThumbnail([])).toBeUndefined();
  expect(drawThumbnail([{ mesh: { ...square(0), positions: new Float32Array(), indices: new Uint32Array() }, colour: '#808080' }])).toBeUndefined();
});
