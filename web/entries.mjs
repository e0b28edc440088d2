/** `npm run entries`: every entry of the screens' message catalogue, for whoever translates it. */
import fs from "node:fs";
import path from "node:path";
import ts from "typescript";

const found = new Set();
const said = { t: [0], counted: [1, 2] };
const word = /\p{L}{2}/u;

/** Classes of the style sheet, addresses, fields and kinds of files are no words. */
const styles = (text) => text.split(/\s+/).every((part) => /^[!a-z0-9:\-/[\].%_()#&>*,='"@+]+$/.test(part) && /[-:[]/.test(part));
const names = (text) => /^(?:[./[]|\w+\/|min-h|inline-flex|border )/.test(text) || /^[a-z0-9]+(?:[_.][a-z]+)+$/.test(text);

/** Attributes and fields whose text is said where it is shown. */
const SHOWN = /^(?:label|question)$/;

/** An argument, or what stands on both sides of a condition. */
const branches = (node) =>
  node && ts.isConditionalExpression(node) ? [...branches(node.whenTrue), ...branches(node.whenFalse)] : node ? [node] : [];

function look(node, source, atTop) {
  if (ts.isCallExpression(node)) {
    for (const place of said[node.expression.getText(source)] ?? []) {
      for (const entry of branches(node.arguments[place])) if (ts.isStringLiteralLike(entry)) found.add(entry.text);
    }
  }
  if (ts.isStringLiteralLike(node) && SHOWN.test(node.parent.name?.getText(source) ?? "") && word.test(node.text)) {
    found.add(node.text);
  }
  // Labels in tables beside the components are said where they are shown.
  if (atTop && ts.isStringLiteralLike(node) && !ts.isImportDeclaration(node.parent) && !ts.isLiteralTypeNode(node.parent)) {
    if (word.test(node.text) && !styles(node.text) && !names(node.text)) found.add(node.text);
  }
  ts.forEachChild(node, (child) => look(child, source, atTop && !ts.isFunctionLike(child)));
}

/** Every entry, in alphabetical order. */
export function entries() {
  const files = fs.readdirSync("src", { recursive: true }).filter((file) => /^(app|features|shared)\b.*\.tsx?$/.test(file));
  for (const name of files) {
    if (name.includes(".test.")) continue;
    const file = path.join("src", name);
    const text = fs.readFileSync(file, "utf8");
    const source = ts.createSourceFile(file, text, ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
    look(source, source, true);
  }
  return [...found].filter((text) => word.test(text)).sort();
}

if (process.argv[1]?.endsWith("entries.mjs")) {
  const empty = Object.fromEntries(entries().map((text) => [text, ""]));
  process.stdout.write(`${JSON.stringify({ entries: empty }, null, 1)}\n`);
}
