/** The command that builds everything. */
import { mkdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { measuresGeometry, type Document } from '../core/document';
import { assemblyTree } from '../core/assembly';
import { complete, headsOf, type BuiltInstance, type CompleteDocument, type InstanceSource } from '../core/instances';
import { builtAt, type BuiltAt } from '../core/studies';
import type { ExportedFile, RegenerationClient } from '../workers/client';
import { ASSEMBLY_FORMATS, EXPORT_FORMATS, type ExportFormat } from '../workers/protocol';
import type { Options } from './arguments';
import type { CommandRoom } from './command-room';
import type { LoadedProject } from './load-project';
import { CommandProblem } from './problem';
import { formatReport, hasErrors, reportDocument } from './report';

/** Builds all documents and writes the files that are wished for. */
export async function regenerate({ documents, earlier }: LoadedProject, options: Options, { print, openClient }: CommandRoom): Promise<number> {
  // Loaded when needed: most commands build no geometry.
  const [client, { buildWhole }] = await Promise.all([openClient(), import('../workers/whole-assembly')]);
  const parts: unknown[] = [];
  const lines: string[] = [];
  let failed = false;
  const built = new Map<string, BuiltInstance>();
  const source = headsOf(documents, (key) => built.get(key), earlier);
  try {
    for (const nominal of documents) {
      const document = options.at ? await buildAt(client, nominal, source, options.at) : nominal;
      if (document.kind !== 'part') {
        const whole = document.kind === 'assembly' ? await buildWhole(client, document, source.snapshot, { built, isJudged: true }) : undefined;
        if (whole && 'failure' in whole) throw new CommandProblem(`${whole.part} could not be regenerated in ${document.name} (${whole.failure.kind}).`);
        const own = whole?.measured.find((one) => one.document === document);
        const report = reportDocument(document, source, { measured: own?.measured ?? {}, shapes: whole?.shapes, interference: whole?.interference });
        failed ||= hasErrors([report]);
        lines.push(formatReport(report));
        parts.push(report);
        if (whole) {
          const tree = assemblyTree(whole.values, whole.placement.standing);
          for (const format of ASSEMBLY_FORMATS) {
            const file = options.files[format] === undefined ? undefined : await client.exportAssembly(document, format, tree.root, tree.parts);
            if (file && !file.ok) throw new CommandProblem(`${document.name} could not be exported (${file.failure.kind}).`);
            if (file) writeExport(document, format, options.files[format], file.value);
          }
        }
        continue;
      }
      const whole = complete(document, source);
      const reply = await client.regenerate(whole);
      if (!reply.ok) throw new CommandProblem(`${document.name} could not be regenerated (${reply.failure.kind}).`);
      const { steps, bodies, measured } = reply.value.result;
      const report = reportDocument(document, source, { measured });
      lines.push(formatReport(report));
      failed ||= hasErrors([report]);
      failed ||= steps.some((step) => step.status === 'failed' || step.status === 'waiting');
      parts.push({ ...report, steps: steps.map(({ id, status, problem, warnings, sketch }) => ({ id, status, problem, warnings, sketch })), bodies });
      lines.push(...steps.filter((step) => step.problem).map((step) => `  ${step.status}: ${step.problem?.message ?? ''}`));
      lines.push(...steps.flatMap((step) => (step.warnings ?? []).map(({ message }) => `  warning: ${message}`)));
      lines.push(
        ...bodies.map(
          ({ name, properties, mass, massProblem = 'no mass' }) =>
            `  body ${name}: ${properties ? `${properties.volume.toFixed(3)} mm³, ${properties.area.toFixed(3)} mm², ${mass === undefined ? massProblem : `${mass.toFixed(4)} kg`}, ${properties.isValid ? 'valid' : 'invalid'}` : 'not built'}`,
        ),
      );
      for (const format of EXPORT_FORMATS) await exportDocument(client, whole, format, options.files[format]);
    }
  } finally {
    client.close();
  }
  print(options.json ? JSON.stringify({ documents: parts }, null, 2) : lines.join('\n'));
  return failed ? 1 : 0;
}

/** The document at its limits. Values that are measured on a part have their nominal from the part as it is. */
async function buildAt(client: RegenerationClient, document: Document, source: InstanceSource, at: BuiltAt): Promise<Document> {
  const reply = document.kind === 'part' && measuresGeometry(document) ? await client.regenerate(complete(document, source)) : undefined;
  return builtAt(document, source, at, reply?.ok ? reply.value.result.measured : {}).document;
}

async function exportDocument(client: RegenerationClient, document: CompleteDocument, format: ExportFormat, directory: string | undefined): Promise<void> {
  if (directory === undefined) return;
  const file = await client.exportFile(document, format);
  if (!file.ok) throw new CommandProblem(`${document.name} could not be exported (${file.failure.kind}).`);
  writeExport(document, format, directory, file.value);
}

function writeExport(document: Document, format: ExportFormat, directory: string | undefined, { bytes, bodies }: ExportedFile): void {
  if (bodies === 0 || directory === undefined) return;
  mkdirSync(directory, { recursive: true });
  const name = document.name.replace(/[^\p{L}\p{Nd}]+/gu, '-').toLowerCase();
  writeFileSync(path.join(directory, `${name}.${format}`), bytes);
}
