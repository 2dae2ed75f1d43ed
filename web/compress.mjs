// Packs what was built once, as small as it goes: a server sends these where a browser takes them.
import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";

const LEAST = 800; // bytes under which a packed file is no gain
for (const name of readdirSync("dist", { recursive: true })) {
  if (!/\.(js|css|html|svg|webmanifest)$/.test(name)) continue;
  const data = readFileSync(join("dist", name));
  if (data.length < LEAST) continue;
  writeFileSync(join("dist", `${name}.gz`), gzipSync(data, { level: 9 }));
  writeFileSync(
    join("dist", `${name}.br`),
    brotliCompressSync(data, { params: { [constants.BROTLI_PARAM_SIZE_HINT]: data.length } }),
  );
}
