# Pictures as Pillow reads them, as JSON: by file name the size, the mode, and red, green, blue, alpha of each pixel.
#   python3 read_pictures.py FILE...
import json
import os
import sys

from PIL import Image

found = {}
for path in sys.argv[1:]:
    with Image.open(path) as picture:
        picture.load()
        found[os.path.basename(path)] = {
            "size": list(picture.size),
            "mode": picture.mode,
            "rgba": list(picture.convert("RGBA").tobytes()),
        }
print(json.dumps(found))
