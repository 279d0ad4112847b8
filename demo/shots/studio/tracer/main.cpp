// trace SCENE OUT: renders the passes of a shot. All are planes of 32-bit floats, one after the other, in the order of the lines that are printed.
#include <tbb/parallel_for.h>
#include <chrono>
#include <cstdio>
#include <fstream>
#include <iostream>
#include "denoise.h"
#include "path.h"

// Sums over the samples of a pixel; what is squared is for its noise.
struct Pixel {
  Vec rest, normal, albedo;
  float rest2 = 0, shade = 0, shade2 = 0, direct = 0, direct2 = 0, specular = 0, specular2 = 0;
  int others = 0, fabric = 0, front = 0, good = 0, cloth = 0, lit = 0;
};

struct Mark {
  // What is at a pixel's center behind what stands in front: the panel and the place on it.
  int panel = -1;
  float u = 0, v = 0;
};

struct Picture {
  int width, height;
  std::vector<Pixel> pixels;
  std::vector<Mark> marks;
  // For each area: samples in it; and all samples on its panels, with the sums of their places.
  std::vector<std::vector<float>> covered, near, us, vs, grids;
  std::vector<float> cloth_u, cloth_v;
};

struct Camera {
  Vec eye, forward, right, up;
  float zoom;
  int width, height;
  explicit Camera(const Scene &scene) : eye(scene.eye), zoom(scene.zoom), width(scene.width), height(scene.height) {
    forward = unit(scene.target - scene.eye);
    right = unit(std::fabs(forward.y) > 0.999f ? Vec{1, 0, 0} : Vec{-forward.z, 0, forward.x});
    up = cross(right, forward);
  }
  Vec through(float x, float y) const {
    const float sx = (x / (float)width * 2 - 1) / zoom, sy = (1 - y / (float)width * 2) / zoom;
    return unit(forward + right * sx + up * (sy + ((float)height / (float)width - 1) / zoom));
  }
};

static bool printed(const Scene &scene, int panel) {
  for (const Area &area : scene.areas)
    if (std::find(area.panels.begin(), area.panels.end(), panel) != area.panels.end()) return true;
  return false;
}

static bool onPanel(const Area &area, int panel) { return std::find(area.panels.begin(), area.panels.end(), panel) != area.panels.end(); }

// A grid of lines of 2 mm, 10 mm apart, that is printed on every area for checking maps: 1 on a line.
static float gridAt(float u, float v) {
  auto near = [](float x) { return std::fabs(x - 10 * std::round(x / 10)) < 1; };
  return near(u) || near(v) ? 1.f : 0.f;
}

// One sample: what is seen, and what of cloth and areas lies behind what stands in front.
static void sample(const Scene &scene, Picture &out, int at, Vec eye, Vec d, Random &random) {
  Pixel &pixel = out.pixels[at];
  const Hit hit = meet(scene, scene.rt, eye, d);
  const bool front = hit.met && hit.material->role == FRONT;
  const Hit cloth = front ? meet(scene, scene.behind, eye, d) : hit;
  if (cloth.met && cloth.material->role != ROOM) {
    if (cloth.material->role == FABRIC) {
      pixel.cloth += 1;
      out.cloth_u[at] += cloth.u;
      out.cloth_v[at] += cloth.v;
    }
    for (size_t k = 0; k < scene.areas.size(); k += 1) {
      const Area &area = scene.areas[k];
      if (!onPanel(area, scene.meshes[cloth.mesh].panel)) continue;
      const float u = cloth.u - area.u0, v = cloth.v - area.v0;
      out.near[k][at] += 1;
      out.us[k][at] += u;
      out.vs[k][at] += v;
      if (u >= 0 && v >= 0 && u <= area.width && v <= area.height) {
        out.covered[k][at] += 1;
        if (!front) out.grids[k][at] += gridAt(u, v);
      }
    }
  }
  if (scene.bare) return;
  if (!hit.met) {
    const Vec light = incoming(scene, eye, d, random, 0, true);
    pixel.rest += light;
    pixel.rest2 += brightness(light) * brightness(light);
    pixel.others += 1;
    return;
  }
  const Material &m = *hit.material;
  pixel.normal += hit.normal;
  pixel.albedo += m.role == FABRIC ? Vec{0.5f, 0.5f, 0.5f} : hit.albedo;
  if (m.role != ROOM) pixel.good += 1;
  if (front) pixel.front += 1;
  if (m.glass) {
    const Vec light = incoming(scene, eye, d, random, 0, true);
    pixel.rest += light;
    pixel.rest2 += brightness(light) * brightness(light);
    pixel.others += 1;
    return;
  }
  const Seen seen = look(scene, hit, random);
  // Ink is lit as what it lies on, also where that keeps its own color.
  if (m.role == FABRIC || (m.role == GOOD && printed(scene, scene.meshes[hit.mesh].panel))) {
    const float shade = std::min(6.f, brightness(seen.diffuse)), direct = std::min(6.f, brightness(seen.direct)), specular = std::min(4.f, brightness(seen.specular));
    pixel.lit += 1;
    pixel.shade += shade;
    pixel.shade2 += shade * shade;
    pixel.direct += direct;
    pixel.direct2 += direct * direct;
    pixel.specular += specular;
    pixel.specular2 += specular * specular;
  }
  if (m.role == FABRIC) pixel.fabric += 1;
  else {
    Vec light = hit.albedo * seen.diffuse + seen.specular;
    if (m.metal) light = seen.specular;
    light = {std::min(light.x, 6.f), std::min(light.y, 6.f), std::min(light.z, 6.f)};
    pixel.rest += light;
    pixel.rest2 += brightness(light) * brightness(light);
    pixel.others += 1;
  }
}

static Picture render(const Scene &scene) {
  const int n = scene.width * scene.height;
  Picture out{scene.width, scene.height, std::vector<Pixel>(n), std::vector<Mark>(n), {}, {}, {}, {}, {}, std::vector<float>(n), std::vector<float>(n)};
  for (auto *planes : {&out.covered, &out.near, &out.us, &out.vs, &out.grids}) planes->assign(scene.areas.size(), std::vector<float>(n));
  const Camera camera(scene);
  const int side = std::max(1, (int)std::sqrt((float)scene.samples));
  tbb::parallel_for(0, scene.height, [&](int y) {
    for (int x = 0; x < scene.width; x += 1) {
      const int at = y * scene.width + x;
      if (scene.across > 0 && (x < scene.left || y < scene.top || x >= scene.left + scene.across || y >= scene.top + scene.down)) continue;
      Random random((uint64_t)scene.seed << 32 | (uint32_t)at);
      for (int s = 0; s < side * side; s += 1) {
        const float px = (float)x + ((float)(s % side) + random()) / (float)side, py = (float)y + ((float)(s / side) + random()) / (float)side;
        sample(scene, out, at, camera.eye, camera.through(px, py), random);
      }
      const Hit hit = meet(scene, scene.behind, camera.eye, camera.through((float)x + 0.5f, (float)y + 0.5f));
      if (hit.met && hit.material->role != ROOM) out.marks[at] = {scene.meshes[hit.mesh].panel, hit.u, hit.v};
    }
  });
  return out;
}

static void put(std::ofstream &out, const char *name, const std::vector<float> &values, int channels = 1) {
  out.write((const char *)values.data(), (std::streamsize)(values.size() * 4));
  std::cout << "plane " << name << " " << channels << "\n";
}

static float varianceOf(float sum, float squares, int count) {
  if (count < 2) return 0.05f;
  const float mean = sum / (float)count;
  return std::max(0.f, squares / (float)count - mean * mean) / (float)(count - 1);
}

static void write(const Scene &scene, const Picture &picture, const char *file, float strength) {
  const int n = picture.width * picture.height;
  const int samples = std::max(1, (int)std::sqrt((float)scene.samples)) * std::max(1, (int)std::sqrt((float)scene.samples));
  std::vector<float> fabric(n), lit(n), others(n), front(n), good(n), cloth(n), normals(n * 3), albedos(n * 3), cu(n), cv(n);
  Plane rest{3, std::vector<float>(n * 3), std::vector<float>(n), &others};
  Plane shade{1, std::vector<float>(n), std::vector<float>(n), &lit}, direct = shade, specular = shade;
  for (int i = 0; i < n; i += 1) {
    const Pixel &p = picture.pixels[i];
    const float one = 1 / (float)samples;
    fabric[i] = (float)p.fabric * one;
    lit[i] = (float)p.lit * one;
    others[i] = (float)p.others * one;
    front[i] = (float)p.front * one;
    good[i] = (float)p.good * one;
    cloth[i] = (float)p.cloth * one;
    if (p.cloth) {
      cu[i] = picture.cloth_u[i] / (float)p.cloth;
      cv[i] = picture.cloth_v[i] / (float)p.cloth;
    }
    const int met = std::max(1, p.fabric + p.others);
    const float v[3] = {p.normal.x, p.normal.y, p.normal.z}, a[3] = {p.albedo.x, p.albedo.y, p.albedo.z}, r[3] = {p.rest.x, p.rest.y, p.rest.z};
    for (int c = 0; c < 3; c += 1) {
      normals[i * 3 + c] = v[c] / (float)met;
      albedos[i * 3 + c] = a[c] / (float)met;
      rest.values[i * 3 + c] = p.others ? r[c] / (float)p.others : 0;
    }
    rest.variance[i] = varianceOf(brightness(p.rest), p.rest2, p.others);
    if (p.lit) {
      shade.values[i] = p.shade / (float)p.lit;
      direct.values[i] = p.direct / (float)p.lit;
      specular.values[i] = p.specular / (float)p.lit;
    }
    shade.variance[i] = varianceOf(p.shade, p.shade2, p.lit);
    direct.variance[i] = varianceOf(p.direct, p.direct2, p.lit);
    specular.variance[i] = varianceOf(p.specular, p.specular2, p.lit);
  }
  const std::vector<Guide> guides = {{3, &normals, 0.12f}, {3, &albedos, 0.05f}, {1, &good, 0.3f}};
  const std::vector<Guide> own = {{3, &normals, 0.09f}};
  if (strength > 0 && !scene.bare) {
    denoise(rest, picture.width, picture.height, guides, strength, 5);
    denoise(shade, picture.width, picture.height, own, strength, 5);
    denoise(direct, picture.width, picture.height, own, strength, 5);
    denoise(specular, picture.width, picture.height, own, strength, 5);
  }
  for (int i = 0; i < n; i += 1)
    for (int c = 0; c < 3; c += 1) rest.values[i * 3 + c] *= others[i];
  std::ofstream out(file, std::ios::binary);
  put(out, "rest", rest.values, 3);
  put(out, "shade", shade.values);
  put(out, "direct", direct.values);
  put(out, "specular", specular.values);
  put(out, "seen", fabric);
  put(out, "fabric", cloth);
  put(out, "front", front);
  put(out, "good", good);
  std::vector<float> panel(n), u(n), v(n);
  for (int i = 0; i < n; i += 1) {
    panel[i] = (float)picture.marks[i].panel;
    u[i] = picture.marks[i].u;
    v[i] = picture.marks[i].v;
  }
  put(out, "panel", panel);
  put(out, "u", u);
  put(out, "v", v);
  put(out, "cloth-u", cu);
  put(out, "cloth-v", cv);
  for (size_t k = 0; k < scene.areas.size(); k += 1) {
    const Area &area = scene.areas[k];
    std::vector<float> covered(n), au(n), av(n), on(n);
    for (int i = 0; i < n; i += 1) {
      covered[i] = picture.covered[k][i] / (float)samples;
      const float near = picture.near[k][i];
      on[i] = near > 0 ? 1 : 0;
      if (near <= 0) continue;
      // The place is that at the pixel's center; at an edge, where the center is beside it, the mean of the samples that are on it.
      const bool center = onPanel(area, picture.marks[i].panel);
      au[i] = center ? picture.marks[i].u - area.u0 : picture.us[k][i] / near;
      av[i] = center ? picture.marks[i].v - area.v0 : picture.vs[k][i] / near;
    }
    put(out, ("area-coverage " + area.key).c_str(), covered);
    put(out, ("area-u " + area.key).c_str(), au);
    put(out, ("area-v " + area.key).c_str(), av);
    std::vector<float> grid(n);
    for (int i = 0; i < n; i += 1) grid[i] = picture.grids[k][i] / (float)samples;
    put(out, ("area-grid " + area.key).c_str(), grid);
  }
  if (!out) throw std::runtime_error("the passes cannot be written");
}

int main(int argc, char **argv) {
  if (argc < 3) {
    std::fprintf(stderr, "trace SCENE OUT [STRENGTH]\n");
    return 2;
  }
  try {
    const auto began = std::chrono::steady_clock::now();
    auto since = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - began).count(); };
    const Scene scene = readScene(argv[1]);
    const Picture picture = render(scene);
    std::fprintf(stderr, "traced in %.1f s", since());
    write(scene, picture, argv[2], argc > 3 ? std::stof(argv[3]) : 0.6f);
    std::fprintf(stderr, ", denoised after %.1f s\n", since());
  } catch (const std::exception &problem) {
    std::fprintf(stderr, "%s\n", problem.what());
    return 1;
  }
}
