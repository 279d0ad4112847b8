// What is in front of the camera, read from a scene file that ../scene.ts writes.
#pragma once
#include <embree3/rtcore.h>
#include <string>
#include <vector>
#include "math.h"

// What a surface is in a shot.
enum Role { ROOM = 0, FABRIC = 1, GOOD = 2, FRONT = 3 };

struct Material {
  std::string name;
  Role role = ROOM;
  Vec albedo{0.8f, 0.8f, 0.8f}, second{0.8f, 0.8f, 0.8f};
  // Reflection at normal incidence of the coat (or of metal), and the coat's roughness; 0: matt.
  float f0 = 0, roughness = 0.3f;
  bool metal = false, glass = false;
  // Light that comes through from behind: thin cloth, paper.
  float through = 0;
  // Grain: a name, its depth and its size in mm.
  std::string grain = "none";
  float grainDepth = 0, grainMm = 1;
};

struct Mesh {
  int material = 0;
  // Number of the panel, by which areas find it.
  int panel = 0;
  std::vector<Vec> positions, normals;
  std::vector<float> uv;
  std::vector<uint32_t> triangles;
};

struct Light {
  // A rectangle: corner, two sides; it shines to the side of cross(a, b).
  Vec corner, a, b, color;
  Vec normal;
  float area = 0;
};

struct Area {
  std::string key;
  std::vector<int> panels;
  float u0, v0, width, height;
};

struct Scene {
  int width = 0, height = 0, samples = 16;
  uint32_t seed = 1;
  Vec eye, target;
  float zoom = 1;
  Vec sky{0, 0, 0}, ground{0, 0, 0};
  Vec sunDir, sunColor;
  float sunSpread = 0;
  std::vector<Material> materials;
  std::vector<Mesh> meshes;
  std::vector<Light> lights;
  std::vector<Area> areas;
  RTCScene rt = nullptr;
  // The same without what stands in front.
  RTCScene behind = nullptr;
  bool hasGlass = false;
  // No light: only where things are.
  bool bare = false;
  // Only this part of the picture, px; all of it when it has no width.
  int left = 0, top = 0, across = 0, down = 0;
};

Scene readScene(const std::string &file);
