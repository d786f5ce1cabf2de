// Answers calls of the front end's modules: node answer.mjs FOLDER, the calls as JSON on stdin, a line for each answer.
// A call is {module, name, args, fold?, then?}: with `fold` the function is applied to a state (args[0]) and one entry
// after the other; `then` calls the answer, or a member of it, again. An argument {export: NAME} is what the module
// exports so; {answer: CALL} is what another call gives, functions and maps included.
import { readFileSync } from "node:fs";
import { pathToFileURL } from "node:url";

const [folder] = process.argv.slice(2);

async function answer({ module, name, args, fold, then }) {
  const found = await import(pathToFileURL(`${folder}/${module}.mjs`));
  const given = await Promise.all(args.map((each) => meant(each, found)));
  let result = fold ? fold.reduce((state, each) => found[name](state, each), given[0]) : found[name](...given);
  for (const [member, ...more] of then ?? []) result = member ? result[member](...more) : result(...more);
  return result;
}

async function meant(given, found) {
  if (!given || typeof given !== "object") return given;
  if ("export" in given) return found[given.export];
  return "answer" in given && "module" in given.answer ? await answer(given.answer) : given;
}

const plain = (_, value) => (value instanceof Map ? Object.fromEntries(value) : value);
for (const each of JSON.parse(readFileSync(0, "utf8")))
  process.stdout.write(`${JSON.stringify(await answer(each), plain) ?? "null"}\n`);
