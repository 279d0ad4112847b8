#include "path.h"

static Vec vertexNormal(const Mesh &mesh, const uint32_t *corner, float a, float b, Vec geometric) {
  if (mesh.normals.empty()) return geometric;
  const Vec n = mesh.normals[corner[0]] * (1 - a - b) + mesh.normals[corner[1]] * a + mesh.normals[corner[2]] * b;
  return unit(n);
}

// The normal with the grain's relief, whose slopes are taken along the triangle's own u and v.
static Vec withGrain(const Material &m, const Mesh &mesh, const uint32_t *corner, const Hit &hit) {
  if (m.grainDepth == 0) return hit.normal;
  const float step = 0.04f * m.grainMm;
  const Vec e1 = mesh.positions[corner[1]] - mesh.positions[corner[0]], e2 = mesh.positions[corner[2]] - mesh.positions[corner[0]];
  const float u1 = mesh.uv[corner[1] * 2] - mesh.uv[corner[0] * 2], v1 = mesh.uv[corner[1] * 2 + 1] - mesh.uv[corner[0] * 2 + 1];
  const float u2 = mesh.uv[corner[2] * 2] - mesh.uv[corner[0] * 2], v2 = mesh.uv[corner[2] * 2 + 1] - mesh.uv[corner[0] * 2 + 1];
  const float det = u1 * v2 - u2 * v1;
  Vec du, dv;
  if (std::fabs(det) > 1e-9f) {
    du = (e1 * v2 - e2 * v1) * (1 / det);
    dv = (e2 * u1 - e1 * u2) * (1 / det);
  } else frame(hit.normal, du, dv);
  const float h = grainHeight(m, hit.u, hit.v, hit.p);
  const float hu = (grainHeight(m, hit.u + step, hit.v, hit.p + du * step) - h) / step;
  const float hv = (grainHeight(m, hit.u, hit.v + step, hit.p + dv * step) - h) / step;
  const Vec bent = unit(hit.normal - unit(du) * hu - unit(dv) * hv);
  return dot(bent, hit.toward) > 0.02f ? bent : hit.normal;
}

Hit meet(const Scene &scene, RTCScene in, Vec from, Vec direction, float least) {
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  RTCRayHit ray{};
  ray.ray = {from.x, from.y, from.z, least, direction.x, direction.y, direction.z, 0, 1e30f, 0xffffffffu, 0, 0};
  ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
  rtcIntersect1(in, &context, &ray);
  Hit hit;
  if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return hit;
  hit.met = true;
  hit.mesh = (int)ray.hit.geomID;
  const Mesh &mesh = scene.meshes[hit.mesh];
  const Material &m = scene.materials[mesh.material];
  const uint32_t *corner = &mesh.triangles[ray.hit.primID * 3];
  const float a = ray.hit.u, b = ray.hit.v, c = 1 - a - b;
  hit.material = &m;
  hit.t = ray.ray.tfar;
  hit.p = mesh.positions[corner[0]] * c + mesh.positions[corner[1]] * a + mesh.positions[corner[2]] * b;
  hit.u = mesh.uv[corner[0] * 2] * c + mesh.uv[corner[1] * 2] * a + mesh.uv[corner[2] * 2] * b;
  hit.v = mesh.uv[corner[0] * 2 + 1] * c + mesh.uv[corner[1] * 2 + 1] * a + mesh.uv[corner[2] * 2 + 1] * b;
  hit.toward = -direction;
  hit.geometric = unit({ray.hit.Ng_x, ray.hit.Ng_y, ray.hit.Ng_z});
  hit.normal = vertexNormal(mesh, corner, a, b, hit.geometric);
  if (!m.glass) {
    if (dot(hit.geometric, hit.toward) < 0) {
      hit.geometric = -hit.geometric;
      hit.normal = -hit.normal;
    }
    if (dot(hit.normal, hit.toward) < 0.001f) hit.normal = unit(hit.normal + hit.toward * (0.002f - dot(hit.normal, hit.toward)));
    hit.normal = withGrain(m, mesh, corner, hit);
  }
  hit.albedo = grainAlbedo(m, hit.u, hit.v, hit.p);
  return hit;
}

Vec background(const Scene &scene, Vec d) { return mix(scene.ground, scene.sky, smoothstep(-0.15f, 0.6f, d.y)); }

// What comes through between two points: 1, 0, or less for glass.
static float clear(const Scene &scene, Vec from, Vec direction, float distance) {
  RTCIntersectContext context;
  rtcInitIntersectContext(&context);
  if (!scene.hasGlass) {
    RTCRay ray{from.x, from.y, from.z, 0.02f, direction.x, direction.y, direction.z, 0, distance - 0.05f, 0xffffffffu, 0, 0};
    rtcOccluded1(scene.rt, &context, &ray);
    return ray.tfar < 0 ? 0.f : 1.f;
  }
  float share = 1;
  float at = 0.02f;
  for (int i = 0; i < 8; i += 1) {
    RTCRayHit ray{};
    ray.ray = {from.x, from.y, from.z, at, direction.x, direction.y, direction.z, 0, distance - 0.05f, 0xffffffffu, 0, 0};
    ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    rtcIntersect1(scene.rt, &context, &ray);
    if (ray.hit.geomID == RTC_INVALID_GEOMETRY_ID) return share;
    const Material &m = scene.materials[scene.meshes[ray.hit.geomID].material];
    if (!m.glass) return 0;
    share *= 0.93f;
    at = ray.ray.tfar + 0.02f;
  }
  return 0;
}

// Diffuse light straight from the lights, divided by the albedo; `through` also from behind.
static Vec lit(const Scene &scene, const Hit &hit, Random &random, bool all) {
  Vec sum;
  const float through = hit.material->through;
  auto facing = [&](Vec to) {
    const float cosine = dot(hit.normal, to), straight = dot(hit.geometric, to);
    if (cosine > 0 && straight > 0) return cosine;
    return through > 0 && straight < 0 ? -straight * through : 0.f;
  };
  const int lights = (int)scene.lights.size(), count = lights + (scene.sunSpread > 0 ? 1 : 0);
  if (count == 0) return sum;
  const int only = all ? -1 : std::min(count - 1, (int)(random() * (float)count));
  for (int i = 0; i < count; i += 1) {
    if (!all && i != only) continue;
    const float share = all ? 1 : (float)count;
    const float r1 = random(), r2 = random();
    Vec to;
    float distance = 1e6f, weight;
    Vec color;
    if (i < lights) {
      const Light &light = scene.lights[i];
      const Vec at = light.corner + light.a * r1 + light.b * r2, way = at - hit.p;
      distance = length(way);
      to = way * (1 / distance);
      const float cosine = -dot(light.normal, to);
      if (cosine <= 0) continue;
      weight = cosine * light.area / (PI * distance * distance);
      color = light.color;
    } else {
      Vec s, t;
      frame(scene.sunDir, s, t);
      const float r = scene.sunSpread * std::sqrt(r1);
      to = unit(scene.sunDir + s * (r * std::cos(2 * PI * r2)) + t * (r * std::sin(2 * PI * r2)));
      weight = 1;
      color = scene.sunColor;
    }
    const float faces = facing(to);
    if (faces <= 0) continue;
    const float seen = clear(scene, hit.p, to, distance);
    if (seen > 0) sum += color * (faces * weight * seen * share);
  }
  return sum;
}

static float fresnel(float f0, float cosine) {
  const float k = std::clamp(1 - cosine, 0.f, 1.f);
  return f0 + (1 - f0) * k * k * k * k * k;
}

// A direction of the coat's reflection (visible normals of GGX would be better; a half vector by its distribution does).
static Vec reflected(const Hit &hit, Random &random, float &weight) {
  const float alpha = hit.material->roughness * hit.material->roughness;
  const float r1 = random(), r2 = random();
  const float cosine = std::sqrt((1 - r1) / (1 + (alpha * alpha - 1) * r1)), sine = std::sqrt(std::max(0.f, 1 - cosine * cosine));
  Vec s, t;
  frame(hit.normal, s, t);
  const Vec half = unit(s * (sine * std::cos(2 * PI * r2)) + t * (sine * std::sin(2 * PI * r2)) + hit.normal * cosine);
  const float vh = dot(hit.toward, half);
  const Vec out = unit(half * (2 * vh) - hit.toward);
  const float nl = dot(hit.normal, out), nv = std::max(0.02f, dot(hit.normal, hit.toward));
  if (nl <= 0 || vh <= 0 || dot(out, hit.geometric) <= 0) {
    weight = 0;
    return out;
  }
  const float k = alpha / 2, g = (nl / (nl * (1 - k) + k)) * (nv / (nv * (1 - k) + k));
  weight = std::min(4.f, g * vh / (nv * std::max(0.02f, cosine))) * fresnel(hit.material->f0, vh);
  return out;
}

static Vec throughGlass(const Scene &scene, const Hit &hit, Vec direction, Random &random, int depth) {
  const bool entering = dot(hit.normal, direction) < 0;
  const Vec n = entering ? hit.normal : -hit.normal;
  const float eta = entering ? 1 / 1.49f : 1.49f, cosine = -dot(n, direction);
  const float sine2 = eta * eta * (1 - cosine * cosine);
  const float reflects = sine2 >= 1 ? 1 : fresnel(0.039f, entering ? cosine : std::sqrt(1 - sine2));
  if (random() < reflects) return incoming(scene, hit.p, unit(direction + n * (2 * cosine)), random, depth + 1, true);
  const Vec on = unit(direction * eta + n * (eta * cosine - std::sqrt(1 - sine2)));
  return incoming(scene, hit.p, on, random, depth + 1, true) * (entering ? hit.albedo : Vec{1, 1, 1});
}

constexpr int DEEPEST = 7;

static Vec leaving(const Scene &scene, const Hit &hit, Vec direction, Random &random, int depth);

Seen look(const Scene &scene, const Hit &hit, Random &random) {
  Seen seen;
  const Material &m = *hit.material;
  const float nv = std::max(0.f, dot(hit.normal, hit.toward));
  const float coat = m.f0 > 0 ? fresnel(m.f0, nv) : 0;
  if (!m.metal) {
    seen.direct = lit(scene, hit, random, true) * (1 - coat);
    const Vec out = cosineAround(hit.normal, random(), random());
    if (dot(out, hit.geometric) > 0) {
      const Hit next = meet(scene, scene.rt, hit.p, out);
      if (!next.met) seen.direct += background(scene, out) * (1 - coat);
      else seen.diffuse = leaving(scene, next, out, random, 1) * (1 - coat);
    }
    seen.diffuse += seen.direct;
    if (m.through > 0) {
      const Vec back = cosineAround(-hit.geometric, random(), random());
      seen.diffuse += incoming(scene, hit.p, back, random, 1, false) * m.through;
    }
  }
  if (m.f0 > 0) {
    float weight;
    const Vec out = reflected(hit, random, weight);
    if (weight > 0) {
      const Vec light = incoming(scene, hit.p, out, random, 1, true) * weight;
      seen.specular = m.metal ? light * hit.albedo : light;
    }
  }
  return seen;
}

Vec incoming(const Scene &scene, Vec from, Vec direction, Random &random, int depth, bool straight) {
  if (depth > DEEPEST) return {};
  const Hit hit = meet(scene, scene.rt, from, direction);
  // Lights are seen where nothing stands before them; whoever asks for diffuse light has asked them already.
  if (straight)
    for (const Light &light : scene.lights) {
      const float facing = -dot(light.normal, direction);
      if (facing <= 0) continue;
      const float t = dot(light.corner - from, light.normal) / -facing;
      if (t <= 0.02f || (hit.met && t > hit.t)) continue;
      const Vec at = from + direction * t - light.corner;
      const float a = dot(at, light.a) / dot(light.a, light.a), b = dot(at, light.b) / dot(light.b, light.b);
      if (a >= 0 && a <= 1 && b >= 0 && b <= 1) {
        // Softer toward its edges, as a diffuser is.
        const float edge = smoothstep(0, 0.12f, std::min(std::min(a, 1 - a), std::min(b, 1 - b)));
        return light.color * (0.35f + 0.65f * edge);
      }
    }
  return hit.met ? leaving(scene, hit, direction, random, depth) : background(scene, direction);
}

// Light that leaves a surface against a ray that met it.
static Vec leaving(const Scene &scene, const Hit &hit, Vec direction, Random &random, int depth) {
  const Material &m = *hit.material;
  if (m.glass) return throughGlass(scene, hit, direction, random, depth);
  float reflects = 0;
  if (m.f0 > 0) reflects = m.metal ? 1 : std::clamp(fresnel(m.f0, dot(hit.normal, hit.toward)), 0.1f, 0.9f);
  if (reflects > 0 && random() < reflects) {
    float weight;
    const Vec out = reflected(hit, random, weight);
    if (weight <= 0) return {};
    const Vec light = incoming(scene, hit.p, out, random, depth + 1, true) * (std::min(weight / reflects, 3.f));
    return m.metal ? light * hit.albedo : light;
  }
  const float coat = m.f0 > 0 ? fresnel(m.f0, dot(hit.normal, hit.toward)) : 0;
  Vec sum = lit(scene, hit, random, false);
  // Paths whose light counts little end early, and the others stand for them.
  const float on = depth < 2 ? 1 : std::min(0.95f, brightness(hit.albedo));
  if (random() < on) {
    const Vec out = cosineAround(hit.normal, random(), random());
    if (dot(out, hit.geometric) > 0) sum += incoming(scene, hit.p, out, random, depth + 1, false) * (1 / on);
  }
  return hit.albedo * sum * ((1 - coat) / (1 - reflects));
}
