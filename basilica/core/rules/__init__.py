"""What every floor says findings with: places, rules, findings and limits."""
