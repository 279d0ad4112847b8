#include "denoise.h"
#include <tbb/parallel_for.h>
#include <algorithm>
#include <cmath>

// Radius of the patches that are held against each other.
constexpr int PATCH = 2;

static float squared(float v) { return v * v; }

void denoise(Plane &plane, int width, int height, const std::vector<Guide> &guides, float strength, int reach) {
  const int n = width * height, c = plane.channels;
  // The variance itself is noisy: it is evened out over a few pixels.
  std::vector<float> variance(n);
  tbb::parallel_for(0, height, [&](int y) {
    for (int x = 0; x < width; x += 1) {
      float sum = 0;
      int count = 0;
      for (int dy = -2; dy <= 2; dy += 1)
        for (int dx = -2; dx <= 2; dx += 1) {
          const int px = x + dx, py = y + dy;
          if (px < 0 || py < 0 || px >= width || py >= height || (*plane.cover)[py * width + px] <= 0) continue;
          sum += plane.variance[py * width + px];
          count += 1;
        }
      variance[y * width + x] = count ? sum / (float)count : 0;
    }
  });
  std::vector<float> out(plane.values.size());
  // Bands of rows are worked through one by one, each with its own room.
  constexpr int BAND = 24;
  tbb::parallel_for(0, (height + BAND - 1) / BAND, [&](int band) {
    const int top = band * BAND, bottom = std::min(height, top + BAND);
    const int from = std::max(0, top - PATCH), to = std::min(height, bottom + PATCH);
    std::vector<float> sums((size_t)(bottom - top) * width * c), weights((size_t)(bottom - top) * width), distance((size_t)(to - from) * width), across(distance.size());
    for (int dy = -reach; dy <= reach; dy += 1)
      for (int dx = -reach; dx <= reach; dx += 1) {
        for (int y = from; y < to; y += 1)
          for (int x = 0; x < width; x += 1) {
            const int px = std::clamp(x + dx, 0, width - 1), py = std::clamp(y + dy, 0, height - 1);
            const int i = y * width + x, j = py * width + px;
            float sum = 0;
            const float noise = variance[i] + std::min(variance[i], variance[j]);
            for (int k = 0; k < c; k += 1) sum += (squared(plane.values[i * c + k] - plane.values[j * c + k]) - noise);
            distance[(size_t)(y - from) * width + x] = sum / ((float)c * (1e-7f + strength * strength * (variance[i] + variance[j])));
          }
        for (int y = from; y < to; y += 1)
          for (int x = 0; x < width; x += 1) {
            float sum = 0;
            for (int k = -PATCH; k <= PATCH; k += 1) sum += distance[(size_t)(y - from) * width + std::clamp(x + k, 0, width - 1)];
            across[(size_t)(y - from) * width + x] = sum;
          }
        for (int y = top; y < bottom; y += 1)
          for (int x = 0; x < width; x += 1) {
            const int px = x + dx, py = y + dy;
            if (px < 0 || py < 0 || px >= width || py >= height) continue;
            const int i = y * width + x, j = py * width + px;
            const float covered = (*plane.cover)[j];
            if ((*plane.cover)[i] <= 0 || covered <= 0) continue;
            float far = 0;
            for (int k = -PATCH; k <= PATCH; k += 1) far += across[(size_t)(std::clamp(y + k, from, to - 1) - from) * width + x];
            far = std::max(0.f, far / (float)((2 * PATCH + 1) * (2 * PATCH + 1)));
            for (const Guide &guide : guides) {
              float differs = 0;
              for (int k = 0; k < guide.channels; k += 1) differs += squared((*guide.values)[i * guide.channels + k] - (*guide.values)[j * guide.channels + k]);
              far = std::max(far, differs / squared(guide.width));
            }
            if (far > 12) continue;
            const float weight = std::exp(-far) * covered;
            const size_t o = (size_t)(y - top) * width + x;
            weights[o] += weight;
            for (int k = 0; k < c; k += 1) sums[o * c + k] += weight * plane.values[j * c + k];
          }
      }
    for (int y = top; y < bottom; y += 1)
      for (int x = 0; x < width; x += 1) {
        const size_t o = (size_t)(y - top) * width + x;
        for (int k = 0; k < c; k += 1)
          out[((size_t)y * width + x) * c + k] = weights[o] > 0 ? sums[o * c + k] / weights[o] : plane.values[((size_t)y * width + x) * c + k];
      }
  });
  plane.values = std::move(out);
  (void)n;
}
