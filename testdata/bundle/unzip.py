"""A build's file read by Python's zipfile and hashlib, which know nothing of this project; photos by Pillow.

python3 unzip.py FILE prints a JSON object: whether the archive is whole, its members, the build as JSON, digests and what is known
of each photo.
"""

import hashlib
import io
import json
import sys
import zipfile

from PIL import Image


def main(path):
    with zipfile.ZipFile(path) as archive:
        bad = archive.testzip()
        names = archive.namelist()
        contents = {name: archive.read(name) for name in names}
    photos = {}
    for name, content in contents.items():
        if name.startswith("photos/"):
            image = Image.open(io.BytesIO(content))
            photos[name] = {"size": image.size, "exif": len(image.getexif()), "info": sorted(image.info)}
    curves = {n: [line.split() for line in c.decode().splitlines() if line and line[0] not in "*#;"][:3]
              for n, c in contents.items() if "curves/" in n}
    json.dump({
        "bad": bad,
        "names": names,
        "digests": {n: hashlib.sha256(c).hexdigest() for n, c in contents.items() if n.startswith(("photos/", "samples/"))},
        "build": json.loads(contents["build.json"]) if "build.json" in contents else None,
        "photos": photos,
        "curves": curves,
    }, sys.stdout)


main(sys.argv[1])
