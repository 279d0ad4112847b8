import fs from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';

/** What docs/voice.md throws out, as people would read it; each with what is said instead. */
const THROWN_OUT: readonly (readonly [words: RegExp, instead: string])[] = [
  [/\b[Bb]ring (a|an|the|it|some|your|artwork|pictures|one|new)\b|\bbrought\b/, 'upload, uploaded'],
  [/\b[Mm]end(ed|ing)?\b/, 'fix'],
  [/\b[Tt]ake (it|them|this|that) (out|away|back)\b|\b[Tt]aken away\b/, 'remove, delete, undo'],
  [/^Take out\b|^Take away\b|^Leave it$|^Drop it$|^Put away$|^Take back$/, 'remove, delete, cancel, discard, dismiss'],
  [/\bput away\b/, 'archived'],
  [/\bhardly seen\b/, 'low contrast'],
  [/\bby (itself|themselves)\b/, 'automatic, automatically'],
  [/\bLook there\b|\b[Nn]ext in line\b|\b[Gg]iven up\b|^Begun$/, 'Check the shop now, Queued, Failed, Started'],
  [/\btook it upon\b|\bin my name\b|\bsaid no\b/, 'accepted by, rejected'],
  [/\bcannot be taken\b|\bwould not be whole\b|\bgo together\b/, 'invalid, wrong'],
  [/\b[Aa]ll of this at once\b|\bcount in\b|\blet go\b|\banew\b/, 'matches, currency, reset, again'],
  [/\bworkspaceName\b/, 'the name of your business'],
  [/\bis printed\b.*charged|\bbeing looked at\b/, 'will print, processed'],
  // What is quoted inside a sentence.
  [/"…" (is|has|names|was|must)\b|\b(is|as|column|channel|in) "…"/, 'quotes “ ”'],
];

/** Texts that are meant as they are: what is not read by people, or says something else with the same words. */
const MEANT: readonly RegExp[] = [
  // SQL and names of fields.
  /SELECT |INSERT |UPDATE |DELETE |workspace_id| AS workspaceName/,
  // For the log.
  /^a process ended by itself$/,
];

const root = path.resolve(import.meta.dirname);

function sources(folder: string): string[] {
  return fs.readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const at = path.join(folder, entry.name);
    if (entry.isDirectory()) return entry.name === 'sim' || entry.name === 'wasm' ? [] : sources(at);
    return /\.tsx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name) ? [at] : [];
  });
}

/** Texts of a file that a person may read: between tags, and strings of more than one word or that begin with a capital. */
function textsOf(file: string): { line: number; text: string }[] {
  const source = ts.createSourceFile(file, fs.readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  const texts: { line: number; text: string }[] = [];
  const add = (node: ts.Node, raw: string) => {
    const text = raw.replace(/\s+/g, ' ').trim();
    if (/[a-z]/.test(text) && (/ /.test(text) || /^[A-Z]/.test(text)))
      texts.push({ line: source.getLineAndCharacterOfPosition(node.getStart()).line + 1, text });
  };
  const visit = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node)) return;
    if (ts.isJsxText(node) || ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node))
      add(node, node.text);
    else if (ts.isTemplateExpression(node))
      add(node, node.head.text + node.templateSpans.map((span) => `…${span.literal.text}`).join(''));
    ts.forEachChild(node, visit);
  };
  visit(source);
  return texts;
}

/** The docs, line by line; the page that lists the words is left out. */
function docLines(): { at: string; text: string }[] {
  const docs = path.join(root, '../docs');
  const files = [
    path.join(root, '../README.md'),
    ...[docs, path.join(docs, 'decisions')].flatMap((folder) =>
      fs
        .readdirSync(folder)
        .filter((name) => name.endsWith('.md') && name !== 'voice.md')
        .map((name) => path.join(folder, name)),
    ),
  ];
  return files.flatMap((file) =>
    fs
      .readFileSync(file, 'utf8')
      .split('\n')
      .map((text, i) => ({ at: `${path.relative(root, file)}:${i + 1}`, text })),
  );
}

/** What of it the docs do not use either; a few words say something else in a longer text, or name a field. */
const IN_DOCS = THROWN_OUT.filter(
  ([words]) => !/go together|count in|let go|anew|workspaceName|"…"/.test(words.source),
);

describe('words in the docs', () => {
  it('are those of docs/voice.md', () => {
    const found = docLines().flatMap(({ at, text }) =>
      IN_DOCS.flatMap(([words, instead]) => {
        const hit = words.exec(text);
        return hit ? [`${at} ${hit[0]} → ${instead}`] : [];
      }),
    );
    expect(found).toEqual([]);
  });
});

describe('words on screens and in errors', () => {
  it('are those of docs/voice.md: what was thrown out does not come back', () => {
    const found = sources(root).flatMap((file) =>
      textsOf(file).flatMap(({ line, text }) =>
        MEANT.some((meant) => meant.test(text))
          ? []
          : THROWN_OUT.flatMap(([words, instead]) =>
              words.test(text) ? [`${path.relative(root, file)}:${line} ${text} → ${instead}`] : [],
            ),
      ),
    );
    expect(found).toEqual([]);
  });
});
