import type { SmallPicture } from '@/workers/small-picture';

/** As a data address of a PNG. */
export function writePicture({ width, height, data }: SmallPicture): string | undefined {
  const canvas = window.document.createElement('canvas');
  Object.assign(canvas, { width, height });
  canvas.getContext('2d')?.putImageData(new ImageData(data, width, height), 0, 0);
  const address = canvas.toDataURL('image/png');
  return address.startsWith('data:image/png;base64,') ? address : undefined;
}
