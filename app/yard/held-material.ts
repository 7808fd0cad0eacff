import { DoubleSide, ShaderMaterial } from 'three'

/**
 * What one bone holds: plain paper where it holds nothing, then spruce in bands that grow wider as it holds more, whole
 * where it holds all; corners that nothing holds, or whose weights do not make 1, are dotted in madder.
 */
export function makeHeldMaterial(): ShaderMaterial {
  return new ShaderMaterial({
    side: DoubleSide,
    vertexShader: /* glsl */ `
      attribute float held;
      varying float share;
      varying vec3 viewPlace;
      void main() {
        share = held;
        vec4 place = modelViewMatrix * vec4(position, 1.0);
        viewPlace = place.xyz;
        gl_Position = projectionMatrix * place;
      }`,
    fragmentShader: /* glsl */ `
      varying float share;
      varying vec3 viewPlace;
      void main() {
        vec3 normal = normalize(cross(dFdx(viewPlace), dFdy(viewPlace)));
        float light = 0.62 + 0.38 * abs(dot(normal, normalize(vec3(0.3, 0.6, 0.9))));
        float weight = clamp(share, 0.0, 1.0);
        float band = mod(gl_FragCoord.x - gl_FragCoord.y, 12.0) / 12.0;
        vec3 paper = vec3(0.89, 0.86, 0.78);
        vec3 spruce = mix(vec3(0.55, 0.70, 0.62), vec3(0.07, 0.30, 0.24), weight);
        vec3 colour = band < weight ? spruce : paper;
        if (share > 1.5) {
          vec2 cell = mod(gl_FragCoord.xy, 8.0) - 4.0;
          colour = dot(cell, cell) < 6.0 ? vec3(0.45, 0.05, 0.09) : vec3(0.93, 0.80, 0.76);
        }
        gl_FragColor = vec4(colour * light, 1.0);
        #include <colorspace_fragment>
      }`,
  })
}
