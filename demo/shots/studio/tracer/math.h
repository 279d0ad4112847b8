// Small vectors, random numbers and noise of the tracer. Everything is in mm and linear light.
#pragma once
#include <algorithm>
#include <cmath>
#include <cstdint>

constexpr float PI = 3.14159265358979f;

struct Vec {
  float x = 0, y = 0, z = 0;
};
inline Vec operator+(Vec a, Vec b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
inline Vec operator-(Vec a, Vec b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
inline Vec operator-(Vec a) { return {-a.x, -a.y, -a.z}; }
inline Vec operator*(Vec a, Vec b) { return {a.x * b.x, a.y * b.y, a.z * b.z}; }
inline Vec operator*(Vec a, float t) { return {a.x * t, a.y * t, a.z * t}; }
inline Vec &operator+=(Vec &a, Vec b) { return a = a + b; }
inline Vec &operator*=(Vec &a, Vec b) { return a = a * b; }
inline float dot(Vec a, Vec b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
inline Vec cross(Vec a, Vec b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }
inline float length(Vec a) { return std::sqrt(dot(a, a)); }
inline Vec unit(Vec a) {
  const float l = length(a);
  return l > 0 ? a * (1 / l) : Vec{0, 1, 0};
}
inline Vec mix(Vec a, Vec b, float t) { return a * (1 - t) + b * t; }
inline float brightness(Vec a) { return 0.2126f * a.x + 0.7152f * a.y + 0.0722f * a.z; }
inline float smoothstep(float from, float to, float x) {
  const float t = std::clamp((x - from) / (to - from), 0.f, 1.f);
  return t * t * (3 - 2 * t);
}

// PCG: the same seed gives the same picture.
struct Random {
  uint64_t state;
  explicit Random(uint64_t seed) : state(seed * 6364136223846793005ull + 1442695040888963407ull) { next(); }
  uint32_t next() {
    const uint64_t old = state;
    state = old * 6364136223846793005ull + 1442695040888963407ull;
    const uint32_t shifted = (uint32_t)(((old >> 18u) ^ old) >> 27u), turn = (uint32_t)(old >> 59u);
    return (shifted >> turn) | (shifted << ((32 - turn) & 31));
  }
  float operator()() { return (float)(next() >> 8) * (1.f / 16777216.f); }
};

inline float hashed(int x, int y, int z) {
  uint32_t h = (uint32_t)x * 374761393u + (uint32_t)y * 668265263u + (uint32_t)z * 2147483647u;
  h = (h ^ (h >> 13)) * 1274126177u;
  h ^= h >> 16;
  return (float)(h & 0xffffff) / 8388608.f - 1;
}

// Value noise, -1 … 1.
inline float noise(Vec p) {
  const float fx = std::floor(p.x), fy = std::floor(p.y), fz = std::floor(p.z);
  const int ix = (int)fx, iy = (int)fy, iz = (int)fz;
  auto ease = [](float t) { return t * t * t * (t * (t * 6 - 15) + 10); };
  const float x = ease(p.x - fx), y = ease(p.y - fy), z = ease(p.z - fz);
  auto at = [&](int a, int b, int c) { return hashed(ix + a, iy + b, iz + c); };
  auto mixed = [](float a, float b, float t) { return a + (b - a) * t; };
  return mixed(mixed(mixed(at(0, 0, 0), at(1, 0, 0), x), mixed(at(0, 1, 0), at(1, 1, 0), x), y),
               mixed(mixed(at(0, 0, 1), at(1, 0, 1), x), mixed(at(0, 1, 1), at(1, 1, 1), x), y), z);
}
inline float fractal(Vec p, int octaves) {
  float sum = 0, weight = 0.5f;
  for (int i = 0; i < octaves; i += 1, weight *= 0.5f, p = p * 2.03f + Vec{17.1f, 5.3f, 9.7f}) sum += weight * noise(p);
  return sum;
}

// Any two directions that stand upright on n and on each other.
inline void frame(Vec n, Vec &s, Vec &t) {
  s = unit(std::fabs(n.x) > 0.5f ? Vec{n.y, -n.x, 0} : Vec{0, n.z, -n.y});
  t = cross(n, s);
}
inline Vec cosineAround(Vec n, float a, float b) {
  Vec s, t;
  frame(n, s, t);
  const float r = std::sqrt(a), phi = 2 * PI * b;
  return unit(s * (r * std::cos(phi)) + t * (r * std::sin(phi)) + n * std::sqrt(std::max(0.f, 1 - a)));
}
