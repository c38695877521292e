"""The rules of the job and its computation: values in, values out."""
