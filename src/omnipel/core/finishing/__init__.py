"""What every cover gets besides its scheme: features, closure, layers, take-up."""
