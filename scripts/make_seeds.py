"""Writes the table of the demo "Marrow Valley Seed Exchange": 1,200 made-up varieties, the same on every run."""

from __future__ import annotations

import csv
import random
from pathlib import Path

TABLE = Path(__file__).parent.parent / "basilica/demo/marrow-valley/tables/varieties.csv"
ROWS = 1_200
KINDS = {
    "Beans": ("climbing", "dwarf", "runner"),
    "Peas": ("tall", "round", "wrinkled"),
    "Squashes": ("winter", "summer", "keeping"),
    "Leaves": ("headed", "loose", "winter"),
    "Roots": ("long", "round", "early"),
    "Grains": ("spring", "winter", "bearded"),
    "Tomatoes": ("bush", "cordon", "drying"),
    "Herbs": ("annual", "shade", "scented"),
}
FIRST = """
Amber Ash Barley Bell Birch Bramble Brook Candle Carter Chalk Clover Copper Corn Cuckoo Dale Dusk Ember
Fen Fern Flint Frost Gale Garland Harrow Hazel Heron Holt Ivory Juniper Kestrel Lantern Larch Linnet Marl
Meadow Mist Moss Nettle Oat Orchard Osier Pebble Pewter Quill Quarry Reed Ridge Rowan Sable Sedge Shale
Sorrel Swift Tallow Teasel Thatch Thistle Umber Valley Vesper Wain Willow Wren Yarrow Yew Zephyr
"""
SECOND = """
Beauty Blue Crimson Early Everlasting Fingers Giant Glory Gold Heart Long Maid Pride Red Star White
"""


def main() -> None:
    """Write the table."""
    chance = random.Random(1200)
    names = [f"{one} {other}" for one in FIRST.split() for other in SECOND.split()]
    names += [f"{one} {other} Late" for one in FIRST.split() for other in SECOND.split()]
    chance.shuffle(names)
    months = ["February", "March", "April", "May"]
    with TABLE.open("w", newline="", encoding="utf-8") as target:
        writer = csv.writer(target, lineterminator="\n")
        writer.writerow(["slug", "name", "kind", "habit", "sow", "days", "grower", "note"])
        for name in sorted(names[:ROWS]):
            kind = chance.choice(list(KINDS))
            habit = chance.choice(KINDS[kind])
            note = chance.choice(
                ["Sets seed true.", "Keep 200 m from its kin.", "Best in a wet year.", "Slow to wake.", "Likes lime."]
            )
            grower = f"{chance.choice('ABCDEFGHJKLM')}. {chance.choice(FIRST.split())}ley"
            row = [name.lower().replace(" ", "-"), name, kind, habit, chance.choice(months), chance.randint(48, 160)]
            writer.writerow([*row, grower, note])


if __name__ == "__main__":
    main()
