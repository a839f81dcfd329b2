"""What sharing, cloning and making cost and save: programs that measure, run, and what their figures say."""
