// Packs bytes as DEFLATE (RFC 1951): literals and runs of one byte (matches at distance 1), with Huffman codes of its own for every block. That is
// what filtered rows of PNG mostly need, and several times faster than a search for matches.
#include <stdint.h>

#define BLOCK_BYTES (1 << 16)
#define LITERALS 286
#define END 256

typedef struct {
  uint8_t *at;
  uint64_t bits;
  int32_t count;
} Bits;

// Up to 32 bits. Whole bytes are written without asking how many there are: a branch that depends on the data would cost more.
static inline void put(Bits *to, uint64_t value, int32_t length) {
  to->bits |= value << to->count;
  to->count += length;
  *(uint64_t *)to->at = to->bits;
  to->at += to->count >> 3;
  to->bits >>= to->count & ~7;
  to->count &= 7;
}

static void align_bits(Bits *to) {
  while (to->count > 0) {
    *to->at++ = (uint8_t)to->bits;
    to->bits >>= 8;
    to->count -= 8;
  }
  to->bits = 0;
  to->count = 0;
}

// Code lengths of at most `most` bits for `n` symbols by their frequency (Moffat and Katajainen's method in place, from memory; lengths above
// the limit are shortened as Kraft's inequality allows). A symbol that is not there has none; a lonely one gets one bit.
static void code_lengths(const uint32_t *frequency, int32_t n, int32_t most, uint8_t *lengths) {
  uint16_t symbols[LITERALS];
  uint32_t a[LITERALS];
  int32_t used = 0;
  for (int32_t s = 0; s < n; s += 1) {
    lengths[s] = 0;
    if (!frequency[s]) continue;
    int32_t i = used++;
    for (; i > 0 && a[i - 1] > frequency[s]; i -= 1) a[i] = a[i - 1], symbols[i] = symbols[i - 1];
    a[i] = frequency[s];
    symbols[i] = (uint16_t)s;
  }
  if (used == 0) return;
  if (used == 1) {
    lengths[symbols[0]] = 1;
    return;
  }
  a[0] += a[1];
  int32_t root = 0, leaf = 2;
  for (int32_t next = 1; next < used - 1; next += 1) {
    if (leaf >= used || a[root] < a[leaf]) {
      a[next] = a[root];
      a[root++] = (uint32_t)next;
    } else
      a[next] = a[leaf++];
    if (leaf >= used || (root < next && a[root] < a[leaf])) {
      a[next] += a[root];
      a[root++] = (uint32_t)next;
    } else
      a[next] += a[leaf++];
  }
  a[used - 2] = 0;
  for (int32_t next = used - 3; next >= 0; next -= 1) a[next] = a[a[next]] + 1;
  int32_t open = 1, taken = 0;
  uint32_t depth = 0;
  root = used - 2;
  int32_t counts[64];
  for (int32_t i = 0; i < 64; i += 1) counts[i] = 0;
  while (open > 0) {
    while (root >= 0 && a[root] == depth) taken += 1, root -= 1;
    while (open > taken) counts[depth < 63 ? depth : 63] += 1, open -= 1;
    open = 2 * taken;
    depth += 1;
    taken = 0;
  }
  for (int32_t i = most + 1; i < 64; i += 1) counts[most] += counts[i];
  uint32_t kraft = 0;
  for (int32_t i = most; i > 0; i -= 1) kraft += (uint32_t)counts[i] << (most - i);
  while (kraft != 1u << most) {
    counts[most] -= 1;
    for (int32_t i = most - 1; i > 0; i -= 1)
      if (counts[i]) {
        counts[i] -= 1;
        counts[i + 1] += 2;
        break;
      }
    kraft -= 1;
  }
  // The rarest symbols get the longest codes.
  int32_t at = 0;
  for (int32_t length = most; length > 0; length -= 1)
    for (int32_t k = 0; k < counts[length]; k += 1) lengths[symbols[at++]] = (uint8_t)length;
}

// Canonical codes (RFC 1951, 3.2.2), their bits turned round as they are written.
static void codes_of(const uint8_t *lengths, int32_t n, uint16_t *codes) {
  uint32_t next[17], count[17];
  for (int32_t i = 0; i < 17; i += 1) count[i] = 0;
  for (int32_t s = 0; s < n; s += 1) count[lengths[s]] += 1;
  count[0] = 0;
  uint32_t code = 0;
  for (int32_t i = 1; i < 17; i += 1) {
    code = (code + count[i - 1]) << 1;
    next[i] = code;
  }
  for (int32_t s = 0; s < n; s += 1) {
    if (!lengths[s]) continue;
    uint32_t value = next[lengths[s]]++, turned = 0;
    for (int32_t i = 0; i < lengths[s]; i += 1) turned = (turned << 1) | (value & 1), value >>= 1;
    codes[s] = (uint16_t)turned;
  }
}

// Symbol, extra bits and their value for run lengths 3 to 258 (RFC 1951, 3.2.5).
static void length_symbol(int32_t length, int32_t *symbol, int32_t *extra, int32_t *rest) {
  if (length == 258) {
    *symbol = 285, *extra = 0, *rest = 0;
    return;
  }
  const int32_t l = length - 3;
  if (l < 8) {
    *symbol = 257 + l, *extra = 0, *rest = 0;
    return;
  }
  int32_t bits = 0;
  while ((l >> bits) >= 8) bits += 1;
  *extra = bits;
  *symbol = 257 + 4 * bits + (l >> bits);
  *rest = l & ((1 << bits) - 1);
}

// Bit-length codes in the order in which they are written (RFC 1951, 3.2.7).
static const uint8_t ORDER[19] = {16, 17, 18, 0, 8, 7, 9, 6, 10, 5, 11, 4, 12, 3, 13, 2, 14, 1, 15};

static void write_codes(Bits *to, const uint8_t *lengths) {
  // The lengths of literals, and of two distances of which only the first is used.
  uint8_t all[LITERALS + 2], symbols[LITERALS + 2], rest[LITERALS + 2], own[19];
  uint32_t frequency[19];
  uint16_t codes[19];
  for (int32_t i = 0; i < LITERALS; i += 1) all[i] = lengths[i];
  all[LITERALS] = all[LITERALS + 1] = 1;
  for (int32_t i = 0; i < 19; i += 1) frequency[i] = 0;
  int32_t n = 0;
  for (int32_t i = 0; i < LITERALS + 2;) {
    int32_t run = 0;
    while (i + run < LITERALS + 2 && all[i + run] == 0 && run < 138) run += 1;
    if (run >= 3) {
      symbols[n] = run > 10 ? 18 : 17;
      rest[n] = (uint8_t)(run > 10 ? run - 11 : run - 3);
      i += run;
    } else {
      symbols[n] = all[i];
      rest[n] = 0;
      i += 1;
    }
    frequency[symbols[n]] += 1;
    n += 1;
  }
  code_lengths(frequency, 19, 7, own);
  codes_of(own, 19, codes);
  put(to, LITERALS - 257, 5);
  put(to, 1, 5);
  put(to, 15, 4);
  for (int32_t i = 0; i < 19; i += 1) put(to, own[ORDER[i]], 3);
  for (int32_t i = 0; i < n; i += 1) {
    put(to, codes[symbols[i]], own[symbols[i]]);
    if (symbols[i] == 17) put(to, rest[i], 3);
    if (symbols[i] == 18) put(to, rest[i], 7);
  }
}

// Packs the bytes `from` … `end` of `in`, at most BLOCK_BYTES, as one block; what lies before `from` was packed before. A block a call: the engine runs
// optimized code only from a call on. `tokens` has room for BLOCK_BYTES + 1 tokens of two bytes. Gives where it stopped writing.
__attribute__((export_name("pack"))) uint8_t *pack(const uint8_t *in, int32_t from, int32_t end, uint16_t *tokens, Bits *state, uint8_t *out, int32_t last) {
  Bits to = {out, state->bits, state->count};
  uint32_t frequency[LITERALS], runs[256];
  for (int32_t i = 0; i < LITERALS; i += 1) frequency[i] = 0;
  for (int32_t i = 0; i < 256; i += 1) runs[i] = 0;
  int32_t n = 0, before = from > 0 ? in[from - 1] : -1;
  for (int32_t i = from; i < end;) {
    const uint8_t byte = in[i];
    if (byte == before && i + 2 < end && in[i + 1] == byte && in[i + 2] == byte) {
      int32_t length = 3;
      const int32_t most = end - i < 258 ? end - i : 258;
      while (length < most && in[i + length] == byte) length += 1;
      tokens[n++] = (uint16_t)(256 + length - 3);
      runs[length - 3] += 1;
      i += length;
    } else {
      tokens[n++] = byte;
      frequency[byte] += 1;
      before = byte;
      i += 1;
    }
  }
  frequency[END] = 1;
  int32_t symbol, extra, rest;
  for (int32_t l = 0; l < 256; l += 1)
    if (runs[l]) {
      length_symbol(l + 3, &symbol, &extra, &rest);
      frequency[symbol] += runs[l];
    }
  uint8_t lengths[LITERALS];
  uint16_t codes[LITERALS];
  code_lengths(frequency, LITERALS, 15, lengths);
  codes_of(lengths, LITERALS, codes);
  put(&to, last ? 1 : 0, 1);
  put(&to, 2, 2);
  write_codes(&to, lengths);
  // A token's bits, and above them their number: a literal, or a run's length with its extra bits and the one bit of distance 1.
  uint32_t words[512];
  for (int32_t s = 0; s < 256; s += 1) words[s] = codes[s] | ((uint32_t)lengths[s] << 24);
  for (int32_t l = 0; l < 256; l += 1) {
    if (!runs[l]) continue;
    length_symbol(l + 3, &symbol, &extra, &rest);
    words[256 + l] = codes[symbol] | ((uint32_t)rest << lengths[symbol]) | ((uint32_t)(lengths[symbol] + extra + 1) << 24);
  }
  int32_t i = 0;
  for (; i + 1 < n; i += 2) {
    const uint32_t one = words[tokens[i]], two = words[tokens[i + 1]];
    const int32_t first = (int32_t)(one >> 24);
    put(&to, (uint64_t)(one & 0xffffff) | ((uint64_t)(two & 0xffffff) << first), first + (int32_t)(two >> 24));
  }
  if (i < n) put(&to, words[tokens[i]] & 0xffffff, (int32_t)(words[tokens[i]] >> 24));
  put(&to, codes[END], lengths[END]);
  state->bits = to.bits;
  state->count = to.count;
  return to.at;
}

// Ends a part at a byte: the last one, or with an empty stored block, so that another part can follow.
__attribute__((export_name("close"))) uint8_t *close_part(Bits *state, uint8_t *out, int32_t last) {
  Bits to = {out, state->bits, state->count};
  if (!last) put(&to, 0, 3);
  align_bits(&to);
  if (!last) {
    to.at[0] = to.at[1] = 0;
    to.at[2] = to.at[3] = 255;
    to.at += 4;
  }
  state->bits = 0;
  state->count = 0;
  return to.at;
}
