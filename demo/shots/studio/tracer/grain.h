// Fine relief of surfaces, and what of it changes their color. Places are mm: u, v of the surface, or where it is in the room.
#pragma once
#include "scene.h"

// Height in mm over the smooth surface.
inline float grainHeight(const Material &m, float u, float v, Vec p) {
  const float s = 1 / m.grainMm;
  if (m.grain == "jersey") {
    // Fine knit: wales down the cloth, courses across, a little uneven.
    const float uneven = 0.35f * noise({u * 0.11f, v * 0.11f, 3}) + 0.25f * noise({u * 0.9f, v * 0.9f, 7});
    const float wale = std::fabs(std::sin(PI * u * s)), course = std::sin(2 * PI * (v * s * 0.8f + 0.22f * wale));
    return m.grainDepth * (0.7f * wale + 0.3f * course + uneven);
  }
  if (m.grain == "canvas") {
    const float warp = std::sin(2 * PI * u * s + 0.5f * noise({u * 0.2f, v * 0.05f, 1})), weft = std::sin(2 * PI * v * s + 0.5f * noise({u * 0.05f, v * 0.2f, 2}));
    const float over = warp * weft > 0 ? std::fabs(warp) : std::fabs(weft);
    return m.grainDepth * (over + 0.4f * noise({u * s * 0.35f, v * s * 0.35f, 4}));
  }
  if (m.grain == "rib") return m.grainDepth * std::fabs(std::sin(PI * u * s));
  if (m.grain == "terry") return m.grainDepth * (noise({u * s, v * s, 2}) + 0.6f * noise({u * s * 2.3f, v * s * 2.3f, 8}));
  if (m.grain == "wood") return m.grainDepth * noise({u * s * 0.06f, v * s * 1.6f, 3});
  if (m.grain == "brushed") return m.grainDepth * noise({v * s * 4, p.x * 0.02f, 5});
  if (m.grain == "plaster") return m.grainDepth * (fractal(p * (s * 0.3f), 4) + 0.35f * noise(p * (s * 2.2f)));
  if (m.grain == "paper") return m.grainDepth * fractal(Vec{u, v, 0} * s, 3);
  if (m.grain == "speckle") return m.grainDepth * noise(p * s);
  return 0;
}

inline Vec grainAlbedo(const Material &m, float u, float v, Vec p) {
  if (m.grain == "wood") {
    // Boards are cut along u: rings are drawn out lines that wander.
    const float s = 1 / m.grainMm;
    const float wander = 3.1f * noise({u * s * 0.012f, v * s * 0.05f, 1}) + 0.4f * noise({u * s * 0.06f, v * s * 0.3f, 9});
    const float ring = 0.5f + 0.5f * std::sin(2 * PI * (v * s * 0.22f + wander));
    const float fiber = 0.5f + 0.5f * noise({u * s * 0.09f, v * s * 3.4f, 4});
    return mix(m.albedo, m.second, std::clamp(0.62f * ring * ring + 0.38f * fiber, 0.f, 1.f));
  }
  if (m.grain == "plaster") return m.albedo * (1 + 0.02f * fractal(p * (0.22f / m.grainMm), 3));
  if (m.grain == "speckle") return noise(p * (1.7f / m.grainMm)) > 0.62f ? m.second : m.albedo;
  if (m.grain == "pages") return mix(m.albedo, m.second, 0.5f + 0.5f * noise({p.y * 9, p.x * 0.02f, p.z * 0.02f}));
  return m.albedo;
}
