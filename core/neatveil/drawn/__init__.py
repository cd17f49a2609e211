"""What people draw: soft shapes, outlines and strokes as coverage of pixels."""
