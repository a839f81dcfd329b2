"""The command line: Typer and Rich, thin, on top of everything else."""
