/** Writes the schema of archives into docs/archive-schema, for whoever reads one without Uncia. */
import { writeFileSync } from 'node:fs';
import { recordSchemas } from '../src/lib/core/archive/record';

for (const { name, schema } of recordSchemas())
  writeFileSync(`docs/archive-schema/${name}`, `${JSON.stringify(schema, null, 2)}\n`);
