"""`python -m urform`."""

from urform.cli.entry import main

main()
