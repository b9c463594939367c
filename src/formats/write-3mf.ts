/**
 * Triangles as 3MF: a zip package (Open Packaging Conventions) with one model part, in millimetres, an object with
 * its name and colour for each body. 3MF Core Specification 1.3: packages §2, model §3, meshes §4, base materials §5.
 */
import { strToU8, zipSync } from 'fflate';
import type { MeshedBody } from './mesh-file';

const TYPES =
  '<?xml version="1.0" encoding="UTF-8"?>\n<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>';
const RELATIONS =
  '<?xml version="1.0" encoding="UTF-8"?>\n<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>';

export function write3mf(bodies: readonly MeshedBody[], title: string): Uint8Array {
  return zipSync({
    '[Content_Types].xml': strToU8(TYPES),
    '_rels/.rels': strToU8(RELATIONS),
    '3D/3dmodel.model': strToU8(writeModel(bodies, title)),
  });
}

function writeModel(bodies: readonly MeshedBody[], title: string): string {
  const bases = bodies.map(({ name, colour }) => `<base name="${escapeXml(name)}" displaycolor="${colour.toUpperCase()}FF"/>`).join('');
  const objects = bodies.map((body, i) => writeObject(body, i)).join('');
  const items = bodies.map((_, i) => `<item objectid="${i + 2}"/>`).join('');
  return `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><metadata name="Title">${escapeXml(title)}</metadata><resources><basematerials id="1">${bases}</basematerials>${objects}</resources><build>${items}</build></model>`;
}

function writeObject({ name, mesh }: MeshedBody, index: number): string {
  const { places, indices } = joinVertices(mesh);
  const vertices: string[] = [];
  for (let i = 0; i < places.length; i += 3) vertices.push(`<vertex x="${places[i]}" y="${places[i + 1]}" z="${places[i + 2]}"/>`);
  const triangles: string[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i], indices[i + 1], indices[i + 2]];
    // Of triangles without area the specification allows none.
    if (a !== b && b !== c && a !== c) triangles.push(`<triangle v1="${a}" v2="${b}" v3="${c}"/>`);
  }
  return `<object id="${index + 2}" type="model" name="${escapeXml(name)}" pid="1" pindex="${index}"><mesh><vertices>${vertices.join('')}</vertices><triangles>${triangles.join('')}</triangles></mesh></object>`;
}

/** Vertices at one place made one: the mesh of a body has its own for each face, and a 3MF mesh must be closed. */
function joinVertices({ positions, indices }: MeshedBody['mesh']): { readonly places: readonly number[]; readonly indices: readonly number[] } {
  const numbers = new Map<string, number>();
  const places: number[] = [];
  const joined = Array.from({ length: positions.length / 3 }, (_, i) => {
    const place = [positions[3 * i] ?? 0, positions[3 * i + 1] ?? 0, positions[3 * i + 2] ?? 0].map((part) => Number(part.toFixed(5)));
    const key = place.join(' ');
    const known = numbers.get(key);
    if (known !== undefined) return known;
    const fresh = places.length / 3;
    numbers.set(key, fresh);
    places.push(...place);
    return fresh;
  });
  return { places, indices: [...indices].map((index) => joined[index] ?? 0) };
}

function escapeXml(text: string): string {
  return text.replace(/[<>&"']/g, (character) => `&#${character.charCodeAt(0)};`);
}
