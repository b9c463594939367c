/** What a face, edge or corner is, by its name alone. */
import { sortOf, type BodyHandle, type GeometryShape, type KernelPort } from '../kernel-port';

/** Undefined where the body has none of that name. */
export function describeNamed(port: KernelPort, body: BodyHandle, name: string): GeometryShape | undefined {
  switch (sortOf(name)) {
    case 'edge':
      return port.describeEdge(body, name);
    case 'corner':
      return port.describeCorner(body, name);
    case 'face':
      return port.describeFace(body, name);
  }
}
