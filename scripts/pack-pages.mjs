// Packs what is built of the pages once, so that the server does not pack it for every visit. Browsers take Brotli from
// their own machine and over TLS, gzip from anywhere.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";

const PACKED = /\.(js|css|html|svg)$/;
/** Smaller files are as quick to send as they are, bytes. */
const LEAST = 1024;

/** Writes a `.br` and a `.gz` beside every file of a folder that packs well. */
export async function packPages(folder) {
  const names = readdirSync(folder, { recursive: true }).filter((name) => PACKED.test(name));
  await Promise.all(
    names.map(async (name) => {
      const path = join(folder, name);
      const text = readFileSync(path);
      if (text.length < LEAST) return;
      const params = { [constants.BROTLI_PARAM_QUALITY]: 9, [constants.BROTLI_PARAM_SIZE_HINT]: text.length };
      const [br, gz] = await Promise.all([
        promisify(brotliCompress)(text, { params }),
        promisify(gzip)(text, { level: 9 }),
      ]);
      writeFileSync(`${path}.br`, br);
      writeFileSync(`${path}.gz`, gz);
    }),
  );
}

if (import.meta.filename === process.argv[1]) await packPages(process.argv[2]);
