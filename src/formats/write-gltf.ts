/** Triangles as binary glTF 2.0, by the glTF-Transform package: metres, y upwards, a node with a name for each body. */
import { Document, WebIO } from '@gltf-transform/core';
import { readColour, type MeshedBody } from './mesh-file';

const METRES = 0.001;

export async function writeGltf(bodies: readonly MeshedBody[], title: string): Promise<Uint8Array> {
  const file = new Document();
  const buffer = file.createBuffer();
  const scene = file.createScene(title);
  for (const { name, colour, mesh } of bodies) {
    const [red, green, blue] = readColour(colour).map(toLinear);
    const material = file
      .createMaterial(name)
      .setBaseColorFactor([red ?? 0, green ?? 0, blue ?? 0, 1])
      .setMetallicFactor(0)
      .setRoughnessFactor(0.7);
    const primitive = file
      .createPrimitive()
      .setAttribute('POSITION', file.createAccessor().setType('VEC3').setArray(turnUp(mesh.positions, METRES)).setBuffer(buffer))
      .setAttribute('NORMAL', file.createAccessor().setType('VEC3').setArray(turnUp(mesh.normals, 1)).setBuffer(buffer))
      .setIndices(file.createAccessor().setType('SCALAR').setArray(Uint32Array.from(mesh.indices)).setBuffer(buffer))
      .setMaterial(material);
    scene.addChild(file.createNode(name).setMesh(file.createMesh(name).addPrimitive(primitive)));
  }
  return new WebIO().writeBinary(file);
}

/** From z upwards to y upwards. */
function turnUp(values: Float32Array, scale: number): Float32Array<ArrayBuffer> {
  const turned = new Float32Array(values.length);
  for (let i = 0; i < values.length; i += 3) {
    turned[i] = (values[i] ?? 0) * scale;
    turned[i + 1] = (values[i + 2] ?? 0) * scale;
    turned[i + 2] = -(values[i + 1] ?? 0) * scale;
  }
  return turned;
}

/** IEC 61966-2-1: from sRGB as shown to linear, which glTF wants. */
function toLinear(part: number): number {
  return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
}
