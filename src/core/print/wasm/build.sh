#!/usr/bin/env bash
# npm run wasm: builds the kernels from affine.c and png.c. Needs Debian's clang and lld (apt-get install clang lld); the results are
# committed, so that neither bin/start nor bin/test needs them.
set -euo pipefail
cd "$(dirname "$0")"
for name in affine png; do
  out=$(mktemp)
  clang --target=wasm32 -O3 -msimd128 -mbulk-memory -nostdlib -fno-builtin -Wall -Wextra -Werror -Wl,--no-entry -Wl,--import-memory -Wl,--strip-all -Wl,-z,stack-size=32768 -o "$out" $name.c
  {
    echo "// Built from wasm/$name.c by npm run wasm. Do not edit."
    echo "export const ${name^^}_WASM ="
    echo "  '$(base64 -w0 "$out")';"
  } >../$name.wasm.ts
  echo "$name: $(stat -c %s "$out") bytes"
  rm -f "$out"
done
