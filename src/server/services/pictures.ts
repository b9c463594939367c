/** How documents look: meshes by content key, kept so that a page shows the solid before its own kernel is there; and small pictures. */
import { Op } from 'sequelize';
import type { MeshText, PictureReply, SavedBody } from '@/contract';
import { writeMesh } from '@/contract';
import type { BodyMesh } from '@/core/kernel-port';
import { DocumentRow, EvaluationRow, MeshRow } from '../db/models';
import { pack, unpack } from '../db/packing';

/** Equal keys hold equal meshes: what is there already is not written again. */
export async function keepMeshes(meshes: Readonly<Record<string, BodyMesh>>): Promise<void> {
  const kept = await MeshRow.findAll({ attributes: ['key'], where: { key: Object.keys(meshes) } });
  const known = new Set(kept.map(({ key }) => key));
  for (const [key, mesh] of Object.entries(meshes)) {
    if (known.has(key)) continue;
    // Another job may come in between: it writes the same.
    await MeshRow.upsert({ key, body: pack(writeMesh(mesh)) });
    if (written++ % TRIM_EVERY === 0) await trimMeshes();
  }
}

/** Older ones are let go of: a page then shows the solid once it has built it itself. */
const MOST_MESHES = 5000;
/** Looked after once in so many. */
const TRIM_EVERY = 100;
let written = 0;

async function trimMeshes(): Promise<void> {
  const oldest = await MeshRow.findAll({ attributes: ['key'], order: [['createdAt', 'DESC']], offset: MOST_MESHES, limit: 1000 });
  if (oldest.length > 0) await MeshRow.destroy({ where: { key: oldest.map(({ key }) => key) } });
}

async function readMeshText(key: string): Promise<MeshText | undefined> {
  const row = await MeshRow.findByPk(key);
  return row ? unpack<MeshText>(row.body) : undefined;
}

/** The solid of the latest revision that was built; no bodies where none was. */
export async function readPicture(id: string): Promise<PictureReply> {
  const row = await EvaluationRow.findOne({
    attributes: ['number', 'bodies'],
    where: { documentId: id, bodies: { [Op.not]: null } },
    order: [['number', 'DESC']],
  });
  if (!row?.bodies) return { revision: 0, bodies: [] };
  const bodies: { id: string; key: string; mesh: MeshText }[] = [];
  for (const { id: body, key } of unpack<SavedBody[]>(row.bodies)) {
    const mesh = key === undefined || body === undefined ? undefined : await readMeshText(key);
    if (mesh && key !== undefined && body !== undefined) bodies.push({ id: body, key, mesh });
  }
  return { revision: row.number, bodies };
}

/** The documents of a project that there is a small picture of. */
export async function listPictured(projectId: string): Promise<ReadonlySet<string>> {
  const rows = await DocumentRow.findAll({ attributes: ['id'], where: { projectId, thumbnail: { [Op.not]: null } } });
  return new Set(rows.map(({ id }) => id));
}

/** A PNG of a revision, where one was made when it was built. */
export async function readRevisionThumbnail(documentId: string, number: number): Promise<Buffer | undefined> {
  const row = await EvaluationRow.findOne({ attributes: ['documentId', 'number', 'thumbnail'], where: { documentId, number } });
  return row?.thumbnail ?? undefined;
}

/** A PNG of the part as it was last built for a revision. */
export async function readThumbnail(id: string): Promise<Buffer | undefined> {
  const row = await DocumentRow.findByPk(id, { attributes: ['id', 'thumbnail'] });
  return row?.thumbnail ?? undefined;
}
