import { listThreads } from './thread-sizes';

// ISO 273 (medium series) and ISO 261 (coarse pitches); the values are entered from memory of the standards.
test.each([
  ['M5', 5.5, 4.2],
  ['M6', 6.6, 5],
  ['M8', 9, 6.8],
  ['M12', 13.5, 10.2],
])('%s: clearance %d mm, tapping drill %d mm', (thread, clearance, tapping) => {
  expect(listThreads().find((size) => size.thread === thread)).toMatchObject({ clearance, tapping });
});

test('a tapping drill is the nominal size less the pitch, to a tenth; a clearance hole is larger than its screw', () => {
  for (const { thread, clearance, tapping, pitch } of listThreads()) {
    const nominal = Number(thread.slice(1));
    expect(Math.abs(tapping - (nominal - pitch))).toBeLessThanOrEqual(0.0501);
    expect(clearance).toBeGreaterThan(nominal);
    expect(clearance).toBeLessThanOrEqual(nominal * 1.15);
  }
});
