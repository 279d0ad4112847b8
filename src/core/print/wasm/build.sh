#!/usr/bin/env bash
# npm run wasm: builds the kernels from affine.c, png.c and core/shot's shot.c. Needs Debian's clang and lld (apt-get install clang lld); the results are
# committed, so that neither bin/start nor bin/test needs them.
set -euo pipefail
cd "$(dirname "$0")"
for source in affine.c png.c ../../shot/wasm/shot.c; do
  name=$(basename "$source" .c)
  out=$(mktemp)
  clang --target=wasm32 -O3 -msimd128 -mbulk-memory -nostdlib -fno-builtin -Wall -Wextra -Werror -Wl,--no-entry -Wl,--import-memory -Wl,--strip-all -Wl,-z,stack-size=32768 -o "$out" "$source"
  {
    echo "// Built from wasm/$name.c by npm run wasm. Do not edit."
    echo "export const ${name^^}_WASM ="
    echo "  '$(base64 -w0 "$out")';"
  } >"$(dirname "$source")/../$name.wasm.ts"
  echo "$name: $(stat -c %s "$out") bytes"
  rm -f "$out"
done
