#include "scene.h"
#include <cstring>
#include <fstream>
#include <sstream>
#include <stdexcept>

static Vec readVec(std::istream &in) {
  Vec v;
  in >> v.x >> v.y >> v.z;
  return v;
}

static void readMesh(Scene &scene, std::istream &line, std::ifstream &in) {
  Mesh mesh;
  size_t points, triangles;
  int hasNormals;
  line >> mesh.material >> mesh.panel >> points >> triangles >> hasNormals;
  mesh.positions.resize(points);
  mesh.uv.resize(points * 2);
  mesh.triangles.resize(triangles * 3);
  in.read((char *)mesh.positions.data(), (std::streamsize)(points * sizeof(Vec)));
  if (hasNormals) {
    mesh.normals.resize(points);
    in.read((char *)mesh.normals.data(), (std::streamsize)(points * sizeof(Vec)));
  }
  in.read((char *)mesh.uv.data(), (std::streamsize)(points * 8));
  in.read((char *)mesh.triangles.data(), (std::streamsize)(triangles * 12));
  if (!in) throw std::runtime_error("the scene file ends in the middle of a mesh");
  scene.meshes.push_back(std::move(mesh));
}

static Material readMaterial(std::istream &in) {
  Material m;
  int role, metal, glass;
  in >> m.name >> role;
  m.role = (Role)role;
  m.albedo = readVec(in);
  m.second = readVec(in);
  in >> m.f0 >> m.roughness >> metal >> glass >> m.through >> m.grain >> m.grainDepth >> m.grainMm;
  m.metal = metal;
  m.glass = glass;
  return m;
}

// Adds a mesh to one of the ray tracing scenes; its number there is its number here.
static void attach(RTCDevice device, RTCScene into, const Mesh &mesh, unsigned id) {
  RTCGeometry geometry = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
  void *points = rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, sizeof(Vec), mesh.positions.size());
  std::memcpy(points, mesh.positions.data(), mesh.positions.size() * sizeof(Vec));
  void *index = rtcSetNewGeometryBuffer(geometry, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, 12, mesh.triangles.size() / 3);
  std::memcpy(index, mesh.triangles.data(), mesh.triangles.size() * 4);
  rtcCommitGeometry(geometry);
  rtcAttachGeometryByID(into, geometry, id);
  rtcReleaseGeometry(geometry);
}

static void build(Scene &scene) {
  RTCDevice device = rtcNewDevice("threads=2");
  scene.rt = rtcNewScene(device);
  scene.behind = rtcNewScene(device);
  for (RTCScene one : {scene.rt, scene.behind}) {
    rtcSetSceneBuildQuality(one, RTC_BUILD_QUALITY_HIGH);
    rtcSetSceneFlags(one, RTC_SCENE_FLAG_ROBUST);
  }
  for (size_t i = 0; i < scene.meshes.size(); i += 1) {
    attach(device, scene.rt, scene.meshes[i], (unsigned)i);
    if (scene.materials[scene.meshes[i].material].role != FRONT) attach(device, scene.behind, scene.meshes[i], (unsigned)i);
  }
  rtcCommitScene(scene.rt);
  rtcCommitScene(scene.behind);
}

Scene readScene(const std::string &file) {
  std::ifstream in(file, std::ios::binary);
  if (!in) throw std::runtime_error("cannot read " + file);
  Scene scene;
  std::string text;
  while (std::getline(in, text)) {
    std::istringstream line(text);
    std::string what;
    line >> what;
    if (what == "size") line >> scene.width >> scene.height >> scene.samples >> scene.seed;
    else if (what == "camera") {
      scene.eye = readVec(line);
      scene.target = readVec(line);
      line >> scene.zoom;
    } else if (what == "bare") scene.bare = true;
    else if (what == "part") line >> scene.left >> scene.top >> scene.across >> scene.down;
    else if (what == "sky") {
      scene.sky = readVec(line);
      scene.ground = readVec(line);
    } else if (what == "sun") {
      scene.sunDir = unit(readVec(line));
      scene.sunColor = readVec(line);
      line >> scene.sunSpread;
    } else if (what == "material") scene.materials.push_back(readMaterial(line));
    else if (what == "light") {
      Light light;
      light.corner = readVec(line);
      light.a = readVec(line);
      light.b = readVec(line);
      light.color = readVec(line);
      const Vec n = cross(light.a, light.b);
      light.area = length(n);
      light.normal = unit(n);
      scene.lights.push_back(light);
    } else if (what == "area") {
      Area area;
      size_t panels;
      line >> area.key >> area.u0 >> area.v0 >> area.width >> area.height >> panels;
      for (size_t i = 0; i < panels; i += 1) {
        int panel;
        line >> panel;
        area.panels.push_back(panel);
      }
      scene.areas.push_back(area);
    } else if (what == "mesh") readMesh(scene, line, in);
    else if (!what.empty()) throw std::runtime_error("the scene file has a line that is not known: " + what);
    if (line.fail()) throw std::runtime_error("a line of the scene file cannot be read: " + text);
  }
  for (const Material &material : scene.materials) scene.hasGlass = scene.hasGlass || material.glass;
  build(scene);
  return scene;
}
