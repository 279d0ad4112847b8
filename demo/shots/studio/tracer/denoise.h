// Non-local means with guides: pixels are evened out with those around that look alike within their noise, and lie on a surface alike.
#pragma once
#include <vector>

struct Plane {
  int channels = 1;
  // Interleaved values, and the variance of each pixel's mean (of its brightness).
  std::vector<float> values, variance;
  // How much of a pixel the values stand for; pixels with 0 are left out.
  const std::vector<float> *cover = nullptr;
};

struct Guide {
  int channels;
  const std::vector<float> *values;
  // Differences of this much count as another surface.
  float width;
};

// `strength`: how many times their noise pixels may differ.
void denoise(Plane &plane, int width, int height, const std::vector<Guide> &guides, float strength, int reach);
