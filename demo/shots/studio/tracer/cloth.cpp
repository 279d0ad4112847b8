// cloth IN OUT: lets cloth fall onto a body. IN has lines of text and behind them numbers, as ../cloth.ts writes them; OUT has the places of the points.
// Small steps with one pass over all constraints each: position based, compliance in units of a point's mass 1.
#include <algorithm>
#include <cstdio>
#include <fstream>
#include <iostream>
#include <sstream>
#include <stdexcept>
#include <string>
#include <vector>
#include "math.h"

struct Link {
  int a, b;
  float rest, give;
};

// A body's outline at a height: half its width, half its depth, where its middle is in depth.
struct Slice {
  float y, a, b, z;
};

// A limb: two ends, a radius at each; it is turned about its first end from one angle to another while the cloth falls.
struct Limb {
  Vec from, to;
  float r0, r1, startDeg, endDeg;
  Vec now;
};

struct World {
  std::vector<Vec> points, before, velocity;
  std::vector<float> weight;
  std::vector<Link> links;
  std::vector<Slice> slices;
  std::vector<Limb> limbs;
  float seconds = 2, growFrom = 0.7f, growSeconds = 0.8f, sway = 0, floor = -1e9f, table = 0;
};

static float sliceDistance(const World &world, Vec p, float grown) {
  const auto &s = world.slices;
  if (s.empty()) return 1e9f;
  size_t k = 0;
  while (k + 2 < s.size() && p.y < s[k + 1].y) k += 1;
  const float t = std::clamp((p.y - s[k].y) / (s[k + 1].y - s[k].y), 0.f, 1.f), e = t * t * (3 - 2 * t);
  const float a = (s[k].a + (s[k + 1].a - s[k].a) * e) * (0.86f + 0.14f * grown), b = (s[k].b + (s[k + 1].b - s[k].b) * e) * grown, z = s[k].z + (s[k + 1].z - s[k].z) * e;
  const float x = p.x / a, d = (p.z - z) / b, k0 = std::sqrt(x * x + d * d), k1 = std::sqrt(x * x / (a * a) + d * d / (b * b));
  const float inside = k1 > 1e-9f ? k0 * (k0 - 1) / k1 : -std::min(a, b);
  return p.y > s[0].y ? std::max(inside, p.y - s[0].y) : inside;
}

static float limbDistance(const Limb &limb, Vec p) {
  const Vec way = limb.now - limb.from, at = p - limb.from;
  const float t = std::clamp(dot(at, way) / dot(way, way), 0.f, 1.f);
  return length(at - way * t) - (limb.r0 + (limb.r1 - limb.r0) * t);
}

static float bodyDistance(const World &world, Vec p, float grown) {
  float d = sliceDistance(world, p, grown);
  for (const Limb &limb : world.limbs) {
    const float other = limbDistance(limb, p), k = 22, h = std::max(k - std::fabs(d - other), 0.f) / k;
    d = std::min(d, other) - h * h * k / 4;
  }
  return d;
}

static void collide(World &world, float grown, float turn, float aside) {
  constexpr float SKIN = 1.6f;
  const float c = std::cos(turn), s = std::sin(turn);
  for (size_t i = 0; i < world.points.size(); i += 1) {
    Vec &p = world.points[i];
    if (world.table > 0 && p.z < 0.6f) {
      p.z = 0.6f;
      Vec &v = world.before[i];
      v.x += (p.x - v.x) * 0.6f;
      v.y += (p.y - v.y) * 0.6f;
    }
    // The body sways: the point is looked at from where the body is.
    const float low = std::clamp(-p.y / 600, 0.f, 1.f);
    const Vec q{c * (p.x - aside * low) - s * p.z, p.y, s * (p.x - aside * low) + c * p.z};
    const float d = bodyDistance(world, q, grown);
    if (d >= SKIN) continue;
    const float e = 0.5f;
    Vec n{bodyDistance(world, q + Vec{e, 0, 0}, grown) - bodyDistance(world, q - Vec{e, 0, 0}, grown), bodyDistance(world, q + Vec{0, e, 0}, grown) - bodyDistance(world, q - Vec{0, e, 0}, grown),
          bodyDistance(world, q + Vec{0, 0, e}, grown) - bodyDistance(world, q - Vec{0, 0, e}, grown)};
    n = unit(n);
    const Vec out{c * n.x + s * n.z, n.y, -s * n.x + c * n.z};
    p += out * (SKIN - d);
    // Friction: what moves along the body loses some of it.
    const Vec moved = p - world.before[i], along = moved - out * dot(moved, out);
    p = p - along * 0.35f;
  }
}

static void run(World &world) {
  constexpr float STEP = 1.f / 1400;
  const int steps = (int)(world.seconds / STEP);
  for (int step = 0; step < steps; step += 1) {
    const float now = (float)step * STEP;
    const float grown = world.growFrom + (1 - world.growFrom) * smoothstep(0, world.growSeconds, now);
    const float lower = smoothstep(0.25f * world.seconds, 0.62f * world.seconds, now);
    for (Limb &limb : world.limbs) {
      const float angle = (limb.startDeg + (limb.endDeg - limb.startDeg) * lower) * PI / 180, c = std::cos(angle), s = std::sin(angle);
      const Vec way = limb.to - limb.from;
      limb.now = limb.from + Vec{c * way.x - s * way.y, s * way.x + c * way.y, way.z};
    }
    const float calm = smoothstep(0.9f * world.seconds, 0.6f * world.seconds, now);
    const float turn = world.sway * 0.16f * std::sin(now * 7.5f) * calm, aside = world.sway * 16 * std::sin(now * 5.1f) * calm;
    const float keep = now > 0.8f * world.seconds ? 0.988f : 0.9965f;
    for (size_t i = 0; i < world.points.size(); i += 1) {
      if (world.weight[i] == 0) {
        world.before[i] = world.points[i];
        continue;
      }
      Vec &v = world.velocity[i];
      if (world.table > 0) v.z -= 9800 * STEP;
      else v.y -= 9800 * STEP;
      v = v * keep;
      const float speed = length(v);
      if (speed > 2500) v = v * (2500 / speed);
      world.before[i] = world.points[i];
      world.points[i] += v * STEP;
    }
    for (const Link &link : world.links) {
      const float wa = world.weight[link.a], wb = world.weight[link.b];
      if (wa + wb == 0) continue;
      const Vec d = world.points[link.b] - world.points[link.a];
      const float l = length(d);
      if (l < 1e-6f) continue;
      const float move = (l - link.rest) / (wa + wb + link.give / (STEP * STEP)) / l;
      world.points[link.a] += d * (move * wa);
      world.points[link.b] += d * (-move * wb);
    }
    collide(world, grown, turn, aside);
    for (size_t i = 0; i < world.points.size(); i += 1) world.velocity[i] = (world.points[i] - world.before[i]) * (1 / STEP);
  }
}

static World readWorld(const char *file) {
  std::ifstream in(file, std::ios::binary);
  if (!in) throw std::runtime_error("cannot read the cloth");
  World world;
  std::string text;
  while (std::getline(in, text)) {
    std::istringstream line(text);
    std::string what;
    line >> what;
    if (what == "run") line >> world.seconds >> world.growFrom >> world.growSeconds >> world.sway >> world.table;
    else if (what == "slice") {
      Slice slice;
      line >> slice.y >> slice.a >> slice.b >> slice.z;
      world.slices.push_back(slice);
    } else if (what == "limb") {
      Limb l;
      line >> l.from.x >> l.from.y >> l.from.z >> l.to.x >> l.to.y >> l.to.z >> l.r0 >> l.r1 >> l.startDeg >> l.endDeg;
      l.now = l.to;
      world.limbs.push_back(l);
    } else if (what == "points") {
      size_t n;
      line >> n;
      world.points.resize(n);
      world.weight.resize(n);
      in.read((char *)world.points.data(), (std::streamsize)(n * sizeof(Vec)));
      in.read((char *)world.weight.data(), (std::streamsize)(n * 4));
    } else if (what == "links") {
      size_t n;
      line >> n;
      world.links.resize(n);
      in.read((char *)world.links.data(), (std::streamsize)(n * sizeof(Link)));
    } else if (!what.empty()) throw std::runtime_error("a line that is not known: " + what);
    if (!in) throw std::runtime_error("the cloth's file ends too early");
  }
  world.before = world.points;
  world.velocity.resize(world.points.size());
  return world;
}

int main(int argc, char **argv) {
  if (argc < 3) return 2;
  try {
    World world = readWorld(argv[1]);
    run(world);
    std::ofstream out(argv[2], std::ios::binary);
    out.write((const char *)world.points.data(), (std::streamsize)(world.points.size() * sizeof(Vec)));
    if (!out) throw std::runtime_error("the places cannot be written");
  } catch (const std::exception &problem) {
    std::fprintf(stderr, "%s\n", problem.what());
    return 1;
  }
}
