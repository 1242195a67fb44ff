"""`python -m omnipel.cli`."""

import sys

from omnipel.cli import main

if __name__ == "__main__":
    sys.exit(main())
