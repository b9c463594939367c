/** The texts of the program, as its sources have them: strings, templates and what stands between tags; no comments, no paths of imports. */
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';

const ROOT = path.join(process.cwd(), 'src');

export interface ProgramText {
  readonly file: string;
  readonly text: string;
}

function filesIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true, recursive: true }).flatMap((entry) => {
    const file = path.join(entry.parentPath, entry.name);
    return entry.isFile() && /\.tsx?$/.test(file) && !/\.test\.tsx?$/.test(file) ? [file] : [];
  });
}

function textsOf(file: string): string[] {
  const source = ts.createSourceFile(
    file,
    readFileSync(file, 'utf8'),
    ts.ScriptTarget.Latest,
    false,
    file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS,
  );
  const texts: string[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    if (ts.isStringLiteralLike(node) || ts.isJsxText(node)) texts.push(node.text);
    else if (ts.isTemplateExpression(node)) texts.push([node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)].join('…'));
    ts.forEachChild(node, visit);
  };
  visit(source);
  // What a failed assertion says is for those who mend it.
  return texts.map((text) => text.replace(/\s+/g, ' ').trim()).filter((text) => text !== '' && !text.startsWith('Bug:'));
}

export const PROGRAM_TEXTS: readonly ProgramText[] = filesIn(ROOT).flatMap((file) => textsOf(file).map((text) => ({ file: path.relative(ROOT, file), text })));
