"""What is printed, read by a library that knows nothing of this project (pypdf).

python3 read.py FILE prints a JSON object: pages with their words, sizes, fonts, pictures, the outline, links.
"""

import json
import sys

import pypdf


def fonts(page):
    found = []
    for font in page["/Resources"].get("/Font", {}).values():
        font = font.get_object()
        inner = font["/DescendantFonts"][0].get_object() if "/DescendantFonts" in font else font
        descriptor = inner.get("/FontDescriptor", {})
        embedded = any(key in descriptor for key in ("/FontFile", "/FontFile2", "/FontFile3"))
        found.append({"name": str(font["/BaseFont"]), "embedded": embedded, "unicode": "/ToUnicode" in font})
    return found


def main(path):
    reader = pypdf.PdfReader(path)
    pages = []
    for page in reader.pages:
        links = [a.get_object() for a in page.get("/Annots", [])]
        pages.append({
            "words": page.extract_text(),
            "size_pt": [float(page.mediabox.width), float(page.mediabox.height)],
            "fonts": fonts(page),
            "pictures": [[i.image.width, i.image.height] for i in page.images],
            "links": len([a for a in links if a["/Subtype"] == "/Link"]),
        })
    outline = [[item.title, reader.get_destination_page_number(item)] for item in reader.outline]
    json.dump({"title": reader.metadata.title, "pages": pages, "outline": outline}, sys.stdout)


main(sys.argv[1])
