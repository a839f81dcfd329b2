/// An object of these names, in their order.
inline RecordValue of_names(RecordValue::Object entries) {
    return entries;
}

/// A list of these values.
inline RecordValue of_items(RecordValue::List values) {
    return values;
}

inline std::vector<std::string> said(const std::vector<RecordProblem> &problems) {
    std::vector<std::string> all;
    for (const RecordProblem &problem : problems) {
        all.push_back(problem.to_string());
    }
    return all;
}

/// What is wrong with a record that a call reads.
template <std::invocable Call>
std::vector<std::string> problems(Call call) {
    try {
        static_cast<void>(call());
    } catch (const RecordError &error) {
        return said(error.problems());
    }
    return {"nothing is thrown"};
}
