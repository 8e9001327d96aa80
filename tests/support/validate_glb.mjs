// Prints the number of errors that the glTF validator finds in a file, then each error.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
const validator = createRequire(import.meta.url)('gltf-validator');
const report = await validator.validateBytes(new Uint8Array(readFileSync(process.argv[2])));
console.log(report.issues.numErrors);
for (const issue of report.issues.messages) if (issue.severity === 0) console.log(issue.code, issue.pointer, issue.message);
