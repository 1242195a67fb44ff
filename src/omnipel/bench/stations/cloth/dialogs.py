"""What the Cloth station asks: which cloth, what the stash has, which other jobs are cut on the same day."""

from omnipel.bench.stations.cloth.clothdialog import ask_cloth
from omnipel.bench.stations.cloth.cutdialog import ask_cut
from omnipel.bench.stations.cloth.daydialog import ask_day
from omnipel.bench.stations.cloth.fitdialog import ask_fit
from omnipel.bench.stations.cloth.stashdialog import ask_stash

ASKS = {"cloth": ask_cloth, "stash": ask_stash, "day": ask_day, "cut": ask_cut, "fit": ask_fit}
"""By what the left column wants."""
