#!/bin/sh
# Builds the readers of exact models into the folder that is named: build-readers.sh FOLDER
set -eu
cd "$(dirname "$0")"
to=$1
flags="-std=c++17 -O1 -DOCC_CONVERT_SIGNALS -fnon-call-exceptions -pthread -I/usr/include/opencascade"
pids=
for unit in model-reader part-measures step-file iges-file; do
  g++ $flags -c $unit.cpp -o "$to/$unit.o" &
  pids="$pids $!"
done
for pid in $pids; do wait "$pid"; done

# Every name of every library is looked up when a reader starts, in all libraries in this order, those that only others need among
# them: those with most of the names first, which takes a tenth off, and none that a reader has no use for.
base="-lTKMath -lTKXSBase -lTKernel -lTKGeomAlgo -lTKV3d -lTKGeomBase -lTKShHealing -lTKG3d -lTKTopAlgo \
  -lTKBO -lTKBRep -lTKMesh -lTKService -lTKLCAF -lTKXCAF -lTKG2d -lTKHLR -lTKCAF -lTKCDF -lTKPrim -lTKVCAF"
g++ $flags "$to/model-reader.o" "$to/part-measures.o" "$to/step-file.o" -o "$to/froe-step-reader" -Wl,--no-as-needed \
  -lTKSTEPBase -lTKSTEPAttr -lTKSTEP $base -lTKSTEP209 -lTKXDESTEP
g++ $flags "$to/model-reader.o" "$to/part-measures.o" "$to/iges-file.o" -o "$to/froe-iges-reader" -Wl,--no-as-needed \
  -lTKIGES $base -lTKXDEIGES
