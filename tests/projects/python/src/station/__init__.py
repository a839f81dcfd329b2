"""The signal station of Port Varrow."""
