/**
 * What geometry has answered, kept over restarts and handed to pages: who opens an assembly for the first time has its parts at once. Only answers
 * of this very program count, as another one may build otherwise.
 */
import { Op } from 'sequelize';
import { readExact, readMesh, writeExact, writeMesh, type BuiltAnswerReply, type MeshText } from '@/contract';
import type { BodyMesh } from '@/core/kernel-port';
import type { BuiltStore, Kept, KeptKind } from '@/workers/kept-client';
import { BuiltAnswerRow, MeshRow } from '../db/models';
import { packText, unpack, unpackText } from '../db/packing';
import { keepMeshes } from './pictures';

/** Unknown where it runs from source: nothing is kept then. */
const thisProgram = (): string => process.env.NEXT_PUBLIC_BUILD ?? '';

/** The oldest are let go of, and those of other programs. */
const MOST_ANSWERS = 20_000;
/** Looked after once in so many. */
const TRIM_EVERY = 500;
let written = 0;

export async function readKeptAnswer<K extends KeptKind>(kind: K, key: string): Promise<Kept[K] | undefined> {
  if (thisProgram() === '') return undefined;
  if (kind === 'mesh') {
    const row = await MeshRow.findByPk(key);
    return row ? (readMesh(unpack<MeshText>(row.body)) as Kept[K]) : undefined;
  }
  const row = await BuiltAnswerRow.findOne({ where: { name: `${kind} ${key}`, program: thisProgram() } });
  return row ? (readExact(unpackText(row.body)) as Kept[K]) : undefined;
}

export async function keepAnswer<K extends KeptKind>(kind: K, key: string, value: Kept[K]): Promise<void> {
  if (thisProgram() === '') return;
  if (kind === 'mesh') {
    await keepMeshes({ [key]: value as BodyMesh });
    return;
  }
  await BuiltAnswerRow.upsert({ name: `${kind} ${key}`, program: thisProgram(), body: packText(writeExact(value)) });
  if (written++ % TRIM_EVERY === 0) await trim();
}

/** Whether there are answers, but none of this program: it has been renewed. */
export async function knowsNoAnswers(): Promise<boolean> {
  if (thisProgram() === '') return false;
  return (await BuiltAnswerRow.count()) > 0 && (await BuiltAnswerRow.count({ where: { program: thisProgram() } })) === 0;
}

const KINDS: readonly string[] = ['part', 'mesh', 'between', 'box'] satisfies KeptKind[];
const isKind = (kind: string): kind is KeptKind => KINDS.includes(kind);

/** For a page of `program`; nothing where it is not known, or no kind of answer. */
export async function tellAnswer(store: BuiltStore, kind: string, key: string, program: string): Promise<BuiltAnswerReply> {
  if (!isKind(kind)) return {};
  const value = program !== '' && program === thisProgram() ? await store.read(kind, key) : undefined;
  if (value === undefined) return {};
  return kind === 'mesh' ? { mesh: writeMesh(value as BodyMesh) } : { exact: writeExact(value) };
}

async function trim(): Promise<void> {
  await BuiltAnswerRow.destroy({ where: { program: { [Op.ne]: thisProgram() } } });
  const oldest = await BuiltAnswerRow.findAll({ attributes: ['name'], order: [['createdAt', 'DESC']], offset: MOST_ANSWERS, limit: 1000 });
  if (oldest.length > 0) await BuiltAnswerRow.destroy({ where: { name: oldest.map(({ name }) => name) } });
}
