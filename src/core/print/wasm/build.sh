#!/usr/bin/env bash
# npm run wasm: builds the kernel from affine.c. Needs Debian's clang and lld (apt-get install clang lld); the result is committed, so
# that neither bin/start nor bin/test needs them.
set -euo pipefail
cd "$(dirname "$0")"
out=$(mktemp)
clang --target=wasm32 -O3 -msimd128 -mbulk-memory -nostdlib -fno-builtin -Wall -Wextra -Werror -Wl,--no-entry -Wl,--import-memory -Wl,--strip-all -Wl,-z,stack-size=16384 -o "$out" affine.c
{
  echo '// Built from wasm/affine.c by npm run wasm. Do not edit.'
  echo "export const AFFINE_WASM ="
  echo "  '$(base64 -w0 "$out")';"
} >../affine.wasm.ts
echo "$(stat -c %s "$out") bytes"
rm -f "$out"
