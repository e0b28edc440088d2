/** `npm run entries`: every entry of the screens' message catalogue, for whoever translates it. */
import fs from "node:fs";
import path from "node:path";
import ts from "typescript";

const found = new Set();
const said = { t: [0], counted: [1, 2] };
const word = /\p{L}{2}/u;

/** Classes of the style sheet are no words. */
const styles = (text) => text.split(/\s+/).every((part) => /^[!a-z0-9:\-/[\].%_()#&>*,='"@+]+$/.test(part) && /[-:[]/.test(part));

function look(node, source, atTop) {
  if (ts.isCallExpression(node)) {
    for (const place of said[node.expression.getText(source)] ?? []) {
      const entry = node.arguments[place];
      if (entry && ts.isStringLiteralLike(entry)) found.add(entry.text);
    }
  }
  // Labels in tables beside the components are said where they are shown.
  if (atTop && ts.isStringLiteralLike(node) && !ts.isImportDeclaration(node.parent) && word.test(node.text)) {
    if (!styles(node.text)) found.add(node.text);
  }
  ts.forEachChild(node, (child) => look(child, source, atTop && !ts.isFunctionLike(child)));
}

const files = fs.readdirSync("src", { recursive: true }).filter((file) => /^(app|features|shared)\b.*\.tsx?$/.test(file));
for (const name of files) {
  if (name.includes(".test.")) continue;
  const file = path.join("src", name);
  const source = ts.createSourceFile(file, fs.readFileSync(file, "utf8"), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  look(source, source, true);
}
const entries = Object.fromEntries([...found].filter((text) => word.test(text)).sort().map((text) => [text, ""]));
process.stdout.write(`${JSON.stringify({ entries }, null, 1)}\n`);
