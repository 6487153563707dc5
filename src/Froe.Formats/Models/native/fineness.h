// How near a mesh lies to what it is of.
#pragma once

// Of a part's diagonal, and radians: chords lie no farther from their surface.
constexpr double kDeflection = 0.001, kAngle = 0.35;
