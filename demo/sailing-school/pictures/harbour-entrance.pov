// The harbour entrance of a made-up river town, seen from the sea. Marks as in IALA region A.
// povray harbour-entrance.pov +W1600 +H1000 +A0.1 +AM2 -D +FJ92 +Oharbour-entrance.jpg
#version 3.7;
global_settings { assumed_gamma 1.0 max_trace_level 8 }
#include "colors.inc"
#include "textures.inc"

camera { location <0, 4.2, -24> look_at <0, 2.3, 10> angle 50 right x*1.6 }
light_source { <-60, 70, -60> color rgb <1.25, 1.18, 1.05> }
light_source { <40, 30, -40> color rgb 0.22 shadowless }

sky_sphere {
  pigment { gradient y color_map { [0.0 rgb <0.86, 0.90, 0.93>] [0.25 rgb <0.55, 0.72, 0.88>] [0.8 rgb <0.22, 0.42, 0.70>] } }
  pigment { bozo turbulence 0.7 octaves 6 omega 0.55 scale <0.55, 0.16, 0.4>
    color_map { [0.0 rgbt <1,1,1,0.15>] [0.35 rgbt <0.97,0.97,0.98,0.6>] [0.55 rgbt <1,1,1,1>] [1 rgbt <1,1,1,1>] } }
}

// The sea
plane { y, 0
  pigment { rgb <0.05, 0.19, 0.24> }
  normal { average normal_map {
    [1 bumps 0.35 scale <1.6, 1, 0.5> turbulence 0.3]
    [1 ripples 0.18 scale 3 translate <30, 0, 40>]
    [0.7 bumps 0.25 scale <0.35, 1, 0.15>] } }
  finish { ambient 0.02 diffuse 0.35 specular 0.5 roughness 0.012 reflection { 0.05, 0.7 fresnel on } conserve_energy }
  interior { ior 1.33 }
}

#declare Stone = texture { pigment { granite scale 2 color_map { [0 rgb <0.42,0.39,0.35>] [0.5 rgb <0.60,0.56,0.50>] [1 rgb <0.50,0.47,0.43>] } } normal { bumps 0.4 scale 0.25 } finish { diffuse 0.75 } }
#declare Weed = texture { pigment { rgb <0.10, 0.13, 0.08> } normal { bumps 0.6 scale 0.15 } }
#declare Paint = finish { diffuse 0.75 specular 0.25 roughness 0.03 }
#declare PaintRed = texture { pigment { rgb <0.62, 0.03, 0.03> } finish { Paint } }
#declare PaintGreen = texture { pigment { rgb <0.01, 0.30, 0.11> } finish { Paint } }
#declare PaintBlack = texture { pigment { rgb 0.015 } finish { Paint } }
#declare PaintYellow = texture { pigment { rgb <0.85, 0.58, 0.01> } finish { Paint } }
#declare PaintWhite = texture { pigment { rgb 0.85 } finish { Paint } }

// Hills behind the town
#declare Hills = texture { pigment { bozo scale 5 color_map { [0 rgb <0.13,0.20,0.12>] [1 rgb <0.22,0.29,0.16>] } } normal { bumps 0.5 scale 0.6 } }
sphere { 0, 1 scale <70, 9, 14> translate <-52, -1, 118> texture { Hills } }
sphere { 0, 1 scale <80, 12, 16> translate <48, -2, 132> texture { Hills } }
sphere { 0, 1 scale <40, 6, 10> translate <6, -1, 106> texture { Hills } }

// The town: houses in rows along the quay
#declare Seed = seed(11);
#macro House(X, Z, W, H, C)
  union {
    box { <-W/2, 0, -1.2>, <W/2, H, 1.2> pigment { rgb C } }
    prism { linear_sweep linear_spline -1.3, 1.3, 4, <-W/2-0.15, 0>, <W/2+0.15, 0>, <0, W*0.42>, <-W/2-0.15, 0> rotate -90*x translate H*y pigment { rgb <0.34, 0.15, 0.11> } }
    #local I = 0;
    #while (I < 2)
      box { <-0.28, 0, -0.02>, <0.28, 0.75, 0.02> translate <(I-0.5)*W*0.5, H*0.52, -1.22> pigment { rgb <0.10, 0.13, 0.17> } finish { reflection 0.2 } }
      #local I = I + 1;
    #end
    translate <X, 1.6, Z>
  }
#end
#declare N = 0;
#while (N < 15)
  House(-23 + N*3.2 + rand(Seed)*0.4, 62 + rand(Seed)*3, 2.5 + rand(Seed)*0.5, 2.3 + rand(Seed)*1.6,
    <0.62 + rand(Seed)*0.25, 0.58 + rand(Seed)*0.22, 0.48 + rand(Seed)*0.22>)
  #declare N = N + 1;
#end
box { <-32, -2, 58>, <32, 1.6, 72> texture { Stone } }

// The two piers, with a light on each head: red to port of a boat coming in, green to starboard
#macro Pier(Side, Far)
  union {
    box { <0, -2, 0>, <3.4, 1.9, Far> texture { Stone } }
    box { <-0.05, -2, -0.05>, <3.45, 0.45, Far> texture { Weed } }
    cylinder { <1.7, -2, 0>, <1.7, 2.0, 0>, 2.6 texture { Stone } }
    cylinder { <1.7, -2, 0>, <1.7, 0.45, 0>, 2.65 texture { Weed } }
    scale <Side, 1, 1>
  }
#end
object { Pier(-1, 44) translate <-9.6, 0, 18> }
object { Pier(1, 44) translate <9.6, 0, 18> }
#macro Tower(T)
  union {
    cone { 0, 0.95, <0, 4.6, 0>, 0.62 texture { PaintWhite } }
    cylinder { <0, 1.5, 0>, <0, 2.6, 0>, 0.875 texture { T } }
    cylinder { <0, 4.6, 0>, <0, 4.75, 0>, 0.95 texture { PaintBlack } }
    cylinder { <0, 4.75, 0>, <0, 5.6, 0>, 0.45 texture { T finish { ambient 0.35 } } }
    cone { <0, 5.6, 0>, 0.6, <0, 6.2, 0>, 0 texture { PaintBlack } }
  }
#end
object { Tower(PaintRed) translate <-11.3, 2.0, 18> }
object { Tower(PaintGreen) translate <11.3, 2.0, 18> }

// Port-hand mark: a red can
union {
  cylinder { <0, -0.6, 0>, <0, 1.5, 0>, 0.95 }
  cylinder { <0, 1.5, 0>, <0, 2.4, 0>, 0.09 }
  cylinder { <0, 2.4, 0>, <0, 3.1, 0>, 0.42 }
  texture { PaintRed } rotate <2, 0, 4> translate <-4.3, 0, -1>
}
// Starboard-hand mark: a green cone
union {
  cone { <0, -0.6, 0>, 1.25, <0, 2.2, 0>, 0.12 }
  cylinder { <0, 2.1, 0>, <0, 2.7, 0>, 0.08 }
  cone { <0, 2.6, 0>, 0.5, <0, 3.4, 0>, 0 }
  texture { PaintGreen } rotate <-2, 0, -3> translate <5.0, 0, -1>
}
// North cardinal mark: black over yellow, two cones pointing up
union {
  cylinder { <0, -0.6, 0>, <0, 0.6, 0>, 0.9 texture { PaintYellow } }
  cone { <0, 0.6, 0>, 0.75, <0, 2.0, 0>, 0.3 texture { PaintYellow } }
  cone { <0, 2.0, 0>, 0.3, <0, 3.4, 0>, 0.22 texture { PaintBlack } }
  cylinder { <0, 3.4, 0>, <0, 5.3, 0>, 0.06 texture { PaintBlack } }
  cone { <0, 3.6, 0>, 0.42, <0, 4.3, 0>, 0 texture { PaintBlack } }
  cone { <0, 4.5, 0>, 0.42, <0, 5.2, 0>, 0 texture { PaintBlack } }
  rotate <0, 0, 2> translate <-9.2, 0, 0.5>
}
// Safe-water mark: red and white upright stripes, a red ball
union {
  sphere { 0, 1.15 pigment { radial frequency 6 color_map { [0.5 rgb <0.66,0.03,0.03>] [0.5 rgb 0.85] } } finish { Paint } }
  cylinder { <0, 1.1, 0>, <0, 2.5, 0>, 0.08 texture { PaintWhite } }
  sphere { <0, 2.8, 0>, 0.42 texture { PaintRed } }
  rotate <0, 12, -3> translate <1.7, 0.15, -8.5>
}
// Special mark: yellow, with a cross
union {
  cylinder { <0, -0.5, 0>, <0, 0.9, 0>, 0.8 }
  cylinder { <0, 0.9, 0>, <0, 2.3, 0>, 0.07 }
  box { <-0.62, -0.1, -0.08>, <0.62, 0.1, 0.08> rotate 45*z translate 2.7*y }
  box { <-0.62, -0.1, -0.08>, <0.62, 0.1, 0.08> rotate -45*z translate 2.7*y }
  texture { PaintYellow } rotate <0, -8, 3> translate <9.6, 0, -0.5>
}

// A dinghy coming in
union {
  intersection {
    sphere { 0, 1 scale <0.85, 0.75, 2.3> }
    plane { y, 0.1 }
    texture { pigment { rgb <0.16, 0.28, 0.45> } finish { Paint } }
  }
  cylinder { <0, 0, 0.5>, <0, 6.2, 0.5>, 0.06 pigment { rgb <0.75, 0.72, 0.66> } }
  triangle { <0, 0.9, 0.45>, <0, 6.0, 0.45>, <0.9, 0.9, -2.0> texture { pigment { rgb 0.92 } finish { diffuse 0.8 ambient 0.12 } } }
  triangle { <0, 0.5, 0.55>, <0, 4.8, 0.55>, <0.5, 0.5, 2.2> texture { pigment { rgb 0.90 } finish { diffuse 0.8 ambient 0.12 } } }
  rotate <0, 62, -5> translate <-1.6, 0.25, 17>
}
