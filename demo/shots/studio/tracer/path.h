// Light along a path through the scene.
#pragma once
#include "grain.h"

struct Hit {
  bool met = false;
  int mesh = -1;
  float t = 0;
  Vec p, geometric, normal, toward;
  float u = 0, v = 0;
  Vec albedo;
  const Material *material = nullptr;
};

// Radiance that leaves a surface, apart: what a picture needs to put another color in.
struct Seen {
  // Diffuse light divided by the albedo; the part of it that comes straight from lights; what is reflected by coat or metal.
  Vec diffuse, direct, specular;
};

Hit meet(const Scene &scene, RTCScene in, Vec from, Vec direction, float least = 0.02f);
Vec background(const Scene &scene, Vec direction);
// Light of a hit that the camera sees.
Seen look(const Scene &scene, const Hit &hit, Random &random);
// All light that comes along a ray.
Vec incoming(const Scene &scene, Vec from, Vec direction, Random &random, int depth, bool straight);
