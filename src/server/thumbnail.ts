/** Small pictures of documents as files. */
import { PNG } from 'pngjs';
import { drawPicture, type DrawnBody } from '@/workers/small-picture';

/** A PNG; undefined when there is nothing to see. */
export function drawThumbnail(bodies: readonly DrawnBody[]): Buffer | undefined {
  const picture = drawPicture(bodies);
  if (!picture) return undefined;
  const image = new PNG({ width: picture.width, height: picture.height });
  image.data = Buffer.from(picture.data);
  return PNG.sync.write(image);
}
